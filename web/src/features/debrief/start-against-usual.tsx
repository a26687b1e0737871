import type { TurbineStart, WatchedType } from '@rouse/core/aircraft';
import { columnOf, rowAt, type Trace } from '@rouse/core/trace';
import type { Corridor } from '@rouse/core/watch';
import { type ReactNode, useMemo, useState } from 'react';
import { SlimButton } from '../../ui/button.tsx';
import { ChartTitle, Sheet } from '../../charts/frame.tsx';
import { PhasePlane, planeOf } from '../../charts/phase-plane.tsx';
import { useSize } from '../../platform/size.ts';
import type { OtherStart } from './other-start.ts';
import { DataTable } from '../../ui/data-table.tsx';

interface StartAgainstUsualProps {
  type: WatchedType;
  spec: TurbineStart;
  trace: Trace;
  corridor: Corridor | null;
  features: Record<string, number | null>;
  /** laid beside it, dashed */
  other: OtherStart | null;
  /** the choice between the starts of this run */
  children?: ReactNode;
}

interface Track {
  ng: number[];
  tot: number[];
}

/** The frames of one start, from the starter to idle or to the end of the trace. */
function trackOf(spec: TurbineStart, trace: Trace, features: Record<string, number | null>): Track {
  const from = rowAt(trace, features['starterAt_s'] ?? 0);
  const idle_s = features['idleAt_s'];
  const to =
    idle_s == null
      ? Math.min(trace.t_s.length, rowAt(trace, (features['starterAt_s'] ?? 0) + 60))
      : rowAt(trace, idle_s);
  return {
    ng: [...columnOf(trace, spec.channels.speed).subarray(from, to)],
    tot: [...columnOf(trace, spec.channels.temperature).subarray(from, to)],
  };
}

/** This start against this tail's usual range. */
export function StartAgainstUsual({ type, spec, trace, corridor, features, other, children }: StartAgainstUsualProps) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const [table, setTable] = useState(false);
  const limit = type.limits.find((l) => l.channel === spec.channels.temperature && l.phases.includes('start'))!;
  const plane = planeOf(size, limit, spec.idle_pct[1]);
  const track = useMemo(() => trackOf(spec, trace, features), [spec, trace, features]);
  const { x, y } = plane;
  const beside = useMemo(() => other && trackOf(spec, other.trace, other.features), [spec, other]);
  const pointsOf = (of: Track): string =>
    of.ng
      .flatMap((n, i) =>
        Number.isNaN(n) || Number.isNaN(of.tot[i]!) ? [] : [`${x(n).toFixed(1)},${y(of.tot[i]!).toFixed(1)}`],
      )
      .join(' ');
  const peak = track.tot.reduce((best, v, i) => (v > (track.tot[best] ?? -Infinity) ? i : best), 0);
  return (
    <>
      <ChartTitle
        title={`${spec.label} start against its usual range`}
        about={
          other
            ? `dashed: ${other.words}`
            : corridor
              ? `this start over the last ${corridor.starts}`
              : 'too few good starts to show a habit'
        }
      >
        {children}
        <SlimButton onPress={() => setTable((t) => !t)} aria-pressed={table}>
          As a table
        </SlimButton>
      </ChartTitle>
      {table ? (
        <DataTable
          caption="Temperature by gas producer speed"
          head={['Ng %', 'This start °C', 'Usual °C']}
          rows={tableRows(track, corridor)}
        />
      ) : (
        <Sheet ref={sheet}>
          <PhasePlane
            size={size}
            plane={plane}
            limit={limit}
            corridor={corridor}
            label="This start's temperature over speed, with the limits and the earlier starts"
          >
            {beside && (
              <polyline
                points={pointsOf(beside)}
                fill="none"
                stroke="var(--track)"
                strokeWidth="2"
                strokeDasharray="6 4"
              />
            )}
            <polyline
              points={pointsOf(track)}
              fill="none"
              stroke="var(--ink)"
              strokeWidth="2.6"
              strokeLinejoin="round"
            />
            {track.ng.length > 0 && (
              <g fill="var(--ink)">
                <circle cx={x(track.ng[peak]!)} cy={y(track.tot[peak]!)} r="4" />
                <text x={x(track.ng[peak]!) + 10} y={y(track.tot[peak]!) - 8} fontWeight="700">
                  peak {track.tot[peak]!.toFixed(0)} °C
                </text>
              </g>
            )}
          </PhasePlane>
        </Sheet>
      )}
    </>
  );
}

function tableRows(track: Track, corridor: Corridor | null): string[][] {
  const rows: string[][] = [];
  for (let bin = 0; bin <= 70; bin += 5) {
    const here = track.tot.filter((_, i) => Math.round(track.ng[i]!) === bin);
    const widest = corridor?.contours[0];
    const low = widest?.low_C[bin] ?? NaN;
    const high = widest?.high_C[bin] ?? NaN;
    rows.push([
      String(bin),
      here.length ? Math.max(...here).toFixed(0) : '–',
      Number.isNaN(low) ? '–' : `${low.toFixed(0)} to ${high.toFixed(0)}`,
    ]);
  }
  return rows;
}
