import type { WatchedType } from '@rouse/core/aircraft';
import type { Moment } from '@rouse/core/debrief';
import { legSpans, type RunState } from '@rouse/core/procedure';
import { columnOf, type Trace } from '@rouse/core/trace';
import { lazy, Suspense, useMemo, useState } from 'react';
import styled from 'styled-components';
import { SlimButton } from '../../ui/button.tsx';
import { ChartTitle } from '../../charts/frame.tsx';
import type { Line } from './whole-run-drawing.ts';
import { minutes } from '../../ui/words.ts';
import { DataTable } from '../../ui/data-table.tsx';

// the zoomable chart is the largest part of this page, and comes when everything else can be read
const WholeRunChart = lazy(async () => ({ default: (await import('./whole-run-chart.tsx')).WholeRunChart }));

const Legend = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 2px 12px;
  list-style: none;
  padding: 0;
  margin-left: auto;
  font-size: 0.8125rem;
  li {
    display: flex;
    gap: 5px;
    align-items: center;
  }
`;

const DASHES: Readonly<Record<Line['dash'], string | undefined>> = { solid: undefined, dashed: '6 3', dotted: '2 3' };

const TABLE_ROWS = 24;

interface WholeRunProps {
  type: WatchedType;
  state: RunState;
  trace: Trace;
  /** run clock that is looked at; null for the whole */
  at_s: number | null;
  moments: readonly Moment[];
}

/** The run from the first item to the last: rotor, gas producer and volts, with the legs over them. */
export function WholeRun({ type, state, trace, at_s, moments }: WholeRunProps) {
  const [table, setTable] = useState(false);
  const end_s = trace.t_s[trace.t_s.length - 1] ?? 0;
  const lines = useMemo(() => linesOf(type), [type]);
  const legs = useMemo(() => legSpans(type, state, end_s), [type, state, end_s]);
  return (
    <>
      <ChartTitle title="The whole run" about="drag or use the wheel to look closer">
        <Legend aria-label="Lines">
          {lines.map((l) => (
            <li key={l.id}>
              <svg width="22" height="8" aria-hidden>
                <path d="M0 4h22" stroke={`var(${l.colour})`} strokeWidth="2.4" strokeDasharray={DASHES[l.dash]} />
              </svg>
              {l.name}
            </li>
          ))}
        </Legend>
        <SlimButton onPress={() => setTable((t) => !t)} aria-pressed={table}>
          As a table
        </SlimButton>
      </ChartTitle>
      {table ? (
        <DataTable
          caption="Readings over the run"
          head={['Time', ...lines.map((l) => l.name)]}
          rows={Array.from({ length: TABLE_ROWS + 1 }, (_, i) => {
            const row = Math.min(trace.t_s.length - 1, Math.round((i * (trace.t_s.length - 1)) / TABLE_ROWS));
            const at = (id: string, decimals: number): string => figure(columnOf(trace, id)[row], decimals);
            return [minutes(trace.t_s[row] ?? 0), ...lines.map((l) => at(l.id, 1))];
          })}
        />
      ) : (
        <Suspense fallback={<p role="status">Drawing the run…</p>}>
          <WholeRunChart trace={trace} legs={legs} lines={lines} at_s={at_s} moments={moments} />
        </Suspense>
      )}
    </>
  );
}

const figure = (v: number | undefined, decimals: number): string =>
  v === undefined || Number.isNaN(v) ? 'unknown' : v.toFixed(decimals);

/** Rotor, the speed of each engine, and the bus. */
function linesOf(type: WatchedType): Line[] {
  const engines = type.startWatches.filter((w) => w.engine > 0);
  const rotor = type.runUpWatch.rotor;
  const short = (id: string): string => type.channels.find((c) => c.id === id)!.short;
  return [
    { id: rotor, name: 'rotor %', colour: '--ink', dash: 'solid', axis: 0 },
    ...engines.map((w, i): Line => ({
      id: w.channels.speed,
      name: `${short(w.channels.speed)} %`,
      colour: i === 0 ? '--track' : '--limit-edge',
      dash: i === 0 ? 'solid' : 'dotted',
      axis: 0,
    })),
    { id: engines[0]!.channels.volts, name: 'bus V', colour: '--now', dash: 'dashed', axis: 1 },
  ];
}
