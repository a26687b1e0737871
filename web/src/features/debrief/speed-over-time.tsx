import type { PistonStart } from '@rouse/core/aircraft';
import { columnOf, rowAt, type Trace } from '@rouse/core/trace';
import type { ReactNode } from 'react';
import { useState } from 'react';
import { SlimButton } from '../../ui/button.tsx';
import { ChartTitle, Sheet } from '../../charts/frame.tsx';
import { linearScale } from '../../charts/scale.ts';
import { TickFigures } from '../../charts/tick-figures.tsx';
import type { OtherStart } from './other-start.ts';
import { DataTable } from '../../ui/data-table.tsx';
import { useSize } from '../../platform/size.ts';

const MARGIN = { left: 46, right: 18, top: 18, bottom: 30 };
const AFTER_IDLE_S = 15;
const WITHOUT_IDLE_S = 40;

interface SpeedOverTimeProps {
  spec: PistonStart;
  trace: Trace;
  features: Record<string, number | null>;
  /** laid beside it, dashed */
  other: OtherStart | null;
  /** the choice between the starts of this run */
  children: ReactNode;
}

/** The start of a piston engine: its speed from the starter on, with its idle. */
export function SpeedOverTime({ spec, trace, features, other, children }: SpeedOverTimeProps) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const [table, setTable] = useState(false);
  const from_s = features['starterAt_s'] ?? 0;
  const idle_s = features['idleAt_s'];
  const shown_s = idle_s == null ? WITHOUT_IDLE_S : idle_s - from_s + AFTER_IDLE_S;
  const speed = columnOf(trace, spec.channels.speed);
  const bottom = size.height - MARGIN.bottom;
  const right = size.width - MARGIN.right;
  const x = linearScale([0, shown_s], [MARGIN.left, right]);
  const y = linearScale([0, spec.overspeed_pct + 6], [bottom, MARGIN.top]);
  const pointsOf = (of: Trace, starter_s: number): string => {
    const its = columnOf(of, spec.channels.speed);
    const [first, last] = [rowAt(of, starter_s), rowAt(of, starter_s + shown_s)];
    const out: string[] = [];
    for (let i = first; i < last; i++)
      if (!Number.isNaN(its[i]!)) out.push(`${x(of.t_s[i]! - starter_s).toFixed(1)},${y(its[i]!).toFixed(1)}`);
    return out.join(' ');
  };
  const [low, high] = spec.idle_pct;
  return (
    <>
      <ChartTitle
        title={`${spec.label} start`}
        about={
          other
            ? `% over seconds from the starter; dashed: ${other.words}`
            : 'engine speed in % over seconds from the starter'
        }
      >
        {children}
        <SlimButton onPress={() => setTable((t) => !t)} aria-pressed={table}>
          As a table
        </SlimButton>
      </ChartTitle>
      {table ? (
        <DataTable
          caption="Engine speed over the seconds since the starter"
          head={['s', 'Engine %']}
          rows={Array.from({ length: Math.ceil(shown_s) }, (_, s) => {
            const v = speed[Math.min(speed.length - 1, rowAt(trace, from_s + s))] ?? NaN;
            return [String(s), Number.isNaN(v) ? 'unknown' : v.toFixed(1)];
          })}
        />
      ) : (
        <Sheet ref={sheet}>
          {size.width > 0 && (
            <svg role="img" aria-label="Engine speed over the seconds since the starter, with its idle">
              <rect
                x={MARGIN.left}
                y={y(high)}
                width={right - MARGIN.left}
                height={y(low) - y(high)}
                fill="var(--usual2)"
              />
              <g stroke="var(--grid)">
                {y.ticks(5).map((v) => (
                  <line key={v} x1={MARGIN.left} x2={right} y1={y(v)} y2={y(v)} />
                ))}
              </g>
              <TickFigures x={x} y={y} left={MARGIN.left} bottom={bottom} />
              {other && (
                <polyline
                  points={pointsOf(other.trace, other.features['starterAt_s'] ?? 0)}
                  fill="none"
                  stroke="var(--track)"
                  strokeWidth="2"
                  strokeDasharray="6 4"
                />
              )}
              <polyline points={pointsOf(trace, from_s)} fill="none" stroke="var(--ink)" strokeWidth="2.6" />
            </svg>
          )}
        </Sheet>
      )}
    </>
  );
}
