import type { SignTrend } from '@rouse/core/trends';
import { useId } from 'react';
import { Hatch } from '../../charts/hatch.tsx';
import type { Scale } from '../../charts/scale.ts';

/** The usual range and the limits of a sign: dashed where it is a caution, hatched where it is never permitted. */
export function SignGround({
  trend: { sign, judged },
  y,
  box,
  words,
}: {
  trend: SignTrend;
  y: Scale;
  box: { left: number; right: number; top: number; bottom: number };
  words: boolean;
}) {
  const hatch = useId();
  const { left, right, top, bottom } = box;
  const { usual } = judged;
  const band = (sigmas: number): { top: number; height: number } => {
    const a = Math.max(top, y(usual!.middle + sigmas * usual!.sigma));
    const b = Math.min(bottom, y(usual!.middle - sigmas * usual!.sigma));
    return { top: a, height: Math.max(0, b - a) };
  };
  const high = sign.worse !== 'low';
  return (
    <g>
      <Hatch id={hatch} />
      {usual &&
        ([3, 2, 1] as const).map((sigmas, i) => {
          const { top: from, height } = band(sigmas);
          return <rect key={sigmas} x={left} y={from} width={right - left} height={height} fill={`var(--usual${i + 1})`} />;
        })}
      {sign.limits.map(({ at, severity, words: says }) => {
        const edge = Math.min(bottom, Math.max(top, y(at)));
        const [from, to] = high ? [top, edge] : [edge, bottom];
        if (to - from < 1) return null;
        const never = severity === 'warning';
        return (
          <g key={says}>
            <rect x={left} y={from} width={right - left} height={to - from} fill={never ? `url(#${hatch})` : 'var(--band2)'} />
            <line x1={left} x2={right} y1={edge} y2={edge} stroke="var(--limit-edge)" strokeWidth={never ? 2 : 1.4} strokeDasharray={never ? undefined : '7 4'} />
            {words && to - from > 14 && (
              <text x={left + 8} y={high ? edge - 6 : edge + 14} fill="var(--limit-ink)" stroke="var(--band2)" strokeWidth="3" paintOrder="stroke" fontWeight={never ? 700 : 400}>
                {says}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
} // oxfmt-ignore
