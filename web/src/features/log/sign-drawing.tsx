import { MAINTENANCE_WORDS, type SignTrend } from '@rouse/core/trends';
import { useState } from 'react';
import { SlimButton } from '../../ui/button.tsx';
import { DataTable } from '../../ui/data-table.tsx';
import { ChartTitle, Sheet } from '../../charts/frame.tsx';
import { useSize } from '../../platform/size.ts';
import { SignGround } from './sign-limits.tsx';
import { signScales, startsAhead } from './sign-scale.ts';

/** One sign in large: every start, its usual, its limits, what was done to the aircraft, and where it leads. */
export function SignDrawing({ trend, chosen, choose }: { trend: SignTrend; chosen: string | null; choose: (run: string) => void }) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const [table, setTable] = useState(false);
  const { sign, points, corrections } = trend;
  const ahead = startsAhead(trend);
  const box = { left: 52, right: size.width - 10, top: 34, bottom: size.height - 30 };
  const { x, y } = signScales(trend, box, ahead, true);
  const corrected = corrections.length > 0 ? 'corrected for the day' : 'as it was read';
  return (
    <>
      <ChartTitle title={sign.label} about={`${sign.unit}, ${corrected}; its usual range shaded`}>
        <SlimButton onPress={() => setTable((t) => !t)} aria-pressed={table}>
          As a table
        </SlimButton>
      </ChartTitle>
      {table ? (
        <DataTable caption={`${sign.label} by start`} head={['Start', 'Day', `As read, ${sign.unit}`, `Corrected, ${sign.unit}`, 'Counts']} rows={points.map((p, i) => [String(i + 1), p.at.slice(0, 10), p.raw.toFixed(sign.decimals), p.value.toFixed(sign.decimals), p.leftOut ? 'left out' : 'yes'])} />
      ) : (
        <Sheet ref={sheet}>
          {size.width > 0 && points.length > 0 && (
            <svg role="img" aria-label={sayTrend(trend)}>
              <SignGround trend={trend} y={y} box={box} words />
              {y.ticks(5).filter((v) => y(v) < box.bottom && y(v) > box.top).map((v) => (
                <text key={v} x={box.left - 8} y={y(v) + 4} textAnchor="end" fill="var(--soft)">{v}</text>
              ))}
              <Months trend={trend} x={x} bottom={box.bottom} />
              <Flags trend={trend} x={x} top={8} bottom={box.bottom} right={box.right} />
              <Ahead trend={trend} x={x} y={y} box={box} ahead={ahead} />
              {points.map((p, i) => (
                <circle key={`${p.run}-${i}`} cx={x(i)} cy={y(p.value)} r={p.run === chosen ? 6 : 3.6} fill={p.leftOut ? 'none' : 'var(--ink)'} stroke={p.run === chosen ? 'var(--now)' : 'var(--ink)'} strokeWidth={p.run === chosen ? 3 : 1} style={{ cursor: 'pointer' }} onClick={() => choose(p.run)} />
              ))}
              <circle cx={x(points.length - 1)} cy={y(points.at(-1)!.value)} r="6.5" fill="var(--sheet)" stroke="var(--now)" strokeWidth="3.4" pointerEvents="none" />
            </svg>
          )}
          {points.length === 0 && <p style={{ padding: 20 }}>Nothing of this sign has been read on this tail yet.</p>}
        </Sheet>
      )}
    </>
  );
} // oxfmt-ignore

/** The drawing in a sentence, for who cannot see it. */
function sayTrend({ sign, points, judged }: SignTrend): string {
  const last = points.at(-1)!;
  const usual = judged.usual ? `usually ${judged.usual.middle.toFixed(sign.decimals)}` : 'its usual is not known yet';
  return `${sign.label} over ${points.length} starts, now ${last.value.toFixed(sign.decimals)} ${sign.unit}, ${usual}`;
}

type ScaleOf = ReturnType<typeof signScales>['x'];

/** a month needs so much room, px */
const MONTH_PX = 34;

function monthsOf(points: SignTrend['points'], x: ScaleOf): { at_px: number; month: string }[] {
  const out: { at_px: number; month: string }[] = [];
  for (const [i, p] of points.entries()) {
    if (i > 0 && points[i - 1]!.at.slice(0, 7) === p.at.slice(0, 7)) continue;
    const last = out.at(-1);
    if (last && x(i) < last.at_px + MONTH_PX) continue;
    out.push({ at_px: x(i), month: new Date(p.at).toLocaleDateString('en-GB', { month: 'short', timeZone: 'UTC' }) });
  }
  return out;
}

/** The months stand where their first start does, where there is room. */
function Months({ trend: { points }, x, bottom }: { trend: SignTrend; x: ScaleOf; bottom: number }) {
  return (
    <g fill="var(--soft)">
      {monthsOf(points, x).map(({ at_px, month }) => (
        <text key={at_px} x={at_px} y={bottom + 18}>{month}</text>
      ))}
    </g>
  );
} // oxfmt-ignore

/** Maintenance that this sign begins anew after. */
function Flags({ trend: { points, renewed }, x, top, bottom, right }: { trend: SignTrend; x: ScaleOf; top: number; bottom: number; right: number }) {
  return (
    <g>
      {renewed.map((event) => {
        const at = points.findIndex((p) => p.at >= event.at);
        const px = x(at < 0 ? points.length - 0.5 : at - 0.5);
        const before = px > right - 180;
        return (
          <g key={event.id}>
            <line x1={px} x2={px} y1={top + 6} y2={bottom} stroke="var(--ink)" strokeDasharray="2 3" />
            <rect x={px} y={top} width="11" height="8" fill="var(--ink)" />
            <text x={before ? px - 6 : px + 16} y={top + 9} textAnchor={before ? 'end' : 'start'} fill="var(--ink)">
              {MAINTENANCE_WORDS[event.kind]}, {new Date(event.at).toLocaleDateString('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' })}
            </text>
          </g>
        );
      })}
    </g>
  );
} // oxfmt-ignore

/** Where a drift leads, with how sure it is: the interval lies on the limit itself. */
function Ahead({ trend, x, y, box, ahead }: { trend: SignTrend; x: ScaleOf; y: ScaleOf; box: { left: number; right: number; top: number; bottom: number }; ahead: number }) {
  const { points, judged } = trend;
  const found = judged.ahead;
  if (!found || ahead === 0) return null;
  const { forecast, limit } = found;
  const now = points.length - 1;
  const edge = y(limit.at);
  const clip = (starts: number | null): number => x(now + Math.min(ahead, starts ?? ahead));
  const [soonest, point, latest] = [clip(forecast.lower), clip(forecast.point), clip(forecast.upper)];
  const known = forecast.status === 'OK' || forecast.status === 'FAR';
  return (
    <g>
      <line x1={x(now)} x2={x(now)} y1={box.top} y2={box.bottom} stroke="var(--line)" />
      <text x={x(now) + 6} y={box.bottom - 6} fill="var(--soft)">starts to come</text>
      {known && (
        <>
          <path d={`M${x(now)},${y(forecast.fitted_now)}L${soonest},${edge}L${latest},${edge}Z`} fill="var(--now)" opacity="0.1" />
          <line x1={x(now)} y1={y(forecast.fitted_now)} x2={point} y2={edge} stroke="var(--now)" strokeWidth="2.4" strokeDasharray="6 4" />
          <line x1={soonest} x2={latest} y1={edge} y2={edge} stroke="var(--now)" strokeWidth="4" />
          <text x={soonest} y={edge - 8} textAnchor="middle" fill="var(--now)" fontWeight="700" stroke="var(--deep)" strokeWidth="3" paintOrder="stroke">{Math.floor(forecast.lower ?? 0)}</text>
        </>
      )}
    </g>
  );
} // oxfmt-ignore
