import type { TraceCheck, WatchedType } from '@rouse/core/aircraft';
import { type Entry, findItem, type MeasuredEntry } from '@rouse/core/procedure';
import { columnOf, rowAt, type Trace } from '@rouse/core/trace';
import { useState } from 'react';
import { type Lane, lanesOf } from '../../charts/live/lane.ts';
import { LaneGround } from '../../charts/live/lane-ground.tsx';
import { type Mark, placeMarks } from '../../charts/live/mark-rows.ts';
import { SlimButton } from '../../ui/button.tsx';
import { ChartTitle, Sheet } from '../../charts/frame.tsx';
import { ticks } from 'd3-array';
import { linearScale, type Scale } from '../../charts/scale.ts';
import { DataTable } from '../../ui/data-table.tsx';
import { useSize } from '../../platform/size.ts';

const MARGIN = { left: 46, right: 90, top: 12, bottom: 22 };
/** the words of the stages stand above the lanes */
const WORDS_PX = 44;
const GAP = 18;
const TABLE_ROWS = 20;

interface CheckWindowProps {
  type: WatchedType;
  trace: Trace;
  entries: readonly Entry[];
  measured: MeasuredEntry;
}

/** The stretch of the trace that a check was read from, with its stages and where each figure was taken. */
export function CheckWindow({ type, trace, entries, measured }: CheckWindowProps) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const [table, setTable] = useState(false);
  const item = findItem(type, measured.item);
  const check = item?.kind === 'measure' ? item.trace : undefined;
  const lanes = lanesOf(type, check?.shows ?? []);
  const lines = lanes.flatMap((l) => l.lines);
  const from = rowAt(trace, measured.from_s);
  const to = rowAt(trace, measured.to_s);
  const x = linearScale([measured.from_s, measured.to_s], [MARGIN.left, size.width - MARGIN.right]);
  const scales = laneScales(lanes, trace, [from, to], size.height);
  const bottom = size.height - MARGIN.bottom;
  return (
    <>
      <ChartTitle title={item?.challenge ?? measured.check} about="the stretch of the trace that it was read from">
        <SlimButton onPress={() => setTable((t) => !t)} aria-pressed={table}>
          As a table
        </SlimButton>
      </ChartTitle>
      {table ? (
        <DataTable
          caption={`Readings of ${item?.challenge ?? measured.check}`}
          head={['s', ...lines.map((l) => `${l.channel.short} ${l.channel.unit}`)]}
          rows={Array.from({ length: TABLE_ROWS + 1 }, (_, i) => {
            const row = Math.min(to - 1, from + Math.round((i * (to - from)) / TABLE_ROWS));
            const say = (v: number | undefined): string =>
              v === undefined || Number.isNaN(v) ? 'unknown' : v.toFixed(2);
            return [
              (trace.t_s[row]! - measured.from_s).toFixed(1),
              ...lines.map((l) => say(columnOf(trace, l.channel.id)[row])),
            ];
          })}
        />
      ) : (
        <Sheet ref={sheet}>
          {size.width > 0 && (
            <svg role="img" aria-label={`Readings of the check of ${item?.challenge.toLowerCase() ?? measured.check}`}>
              {lanes.map((lane, i) => (
                <LaneGround key={lane.unit} lane={lane} y={scales[i]!} left={MARGIN.left} right={x(measured.to_s)} />
              ))}
              <Stages marks={marksOf(entries, measured, check)} x={x} top={MARGIN.top} bottom={bottom} />
              {lanes.map((lane, i) =>
                lane.lines.map(({ channel, colour }) => (
                  <g key={channel.id}>
                    <path
                      d={pathOf(trace, channel.id, from, to, x, scales[i]!)}
                      fill="none"
                      stroke={`var(${colour})`}
                      strokeWidth={2.2}
                    />
                    <text
                      x={x(measured.to_s) + 6}
                      y={lastPlace(trace, channel.id, to, scales[i]!)}
                      fill={`var(${colour})`}
                    >
                      {channel.short}
                    </text>
                  </g>
                )),
              )}
              <g fill="var(--soft)">
                {ticks(0, measured.to_s - measured.from_s, 6).map((t) => (
                  <text key={t} x={x(measured.from_s + t)} y={size.height - 6} textAnchor="middle">
                    {t} s
                  </text>
                ))}
              </g>
            </svg>
          )}
        </Sheet>
      )}
    </>
  );
}

/** One scale a lane, over what is drawn in it, one below the other. */
function laneScales(
  lanes: readonly Lane[],
  trace: Trace,
  [from, to]: readonly [number, number],
  all_px: number,
): Scale[] {
  const height =
    (all_px - MARGIN.top - WORDS_PX - MARGIN.bottom - GAP * (lanes.length - 1)) / Math.max(1, lanes.length);
  return lanes.map((lane, i): Scale => {
    const top = MARGIN.top + WORDS_PX + i * (height + GAP);
    const values = lane.lines.flatMap((l) => [...columnOf(trace, l.channel.id).subarray(from, to)]);
    const known = [...values, ...lane.windows.flat(), ...lane.edges.map((e) => e.at)].filter((v) => !Number.isNaN(v));
    const [low, high] = [Math.min(...known), Math.max(...known)];
    const air = 0.08 * (high - low || 1);
    return linearScale([low - air, high + air], [top + height, top]);
  });
}

/** When each stage was completed: the moment that its reading had lasted. */
function marksOf(entries: readonly Entry[], measured: MeasuredEntry, check: TraceCheck | undefined): Mark[] {
  return entries.flatMap((e) =>
    e.kind === 'stage-done' && e.item === measured.item && e.t > measured.from_s && e.t <= measured.to_s
      ? [{ t_s: e.t - (check?.stages[e.stage]?.hold_s ?? 0), words: e.words.split(',')[0]! }]
      : [],
  );
}

function Stages({ marks, x, top, bottom }: { marks: readonly Mark[]; x: Scale; top: number; bottom: number }) {
  return (
    <g>
      {placeMarks(marks, x).map(({ t_s, at, words, row }) => (
        <g key={`${t_s} ${words}`}>
          <line x1={at} x2={at} y1={top} y2={bottom} stroke="var(--now)" strokeDasharray="3 3" />
          {words !== null && (
            <text x={at + 4} y={top + 10 + 13 * row} fill="var(--now)">
              {words}
            </text>
          )}
        </g>
      ))}
    </g>
  );
}

function pathOf(trace: Trace, channel: string, from: number, to: number, x: Scale, y: Scale): string {
  const column = columnOf(trace, channel);
  let path = '';
  let drawn = false;
  for (let i = from; i < to; i++) {
    const v = column[i]!;
    if (Number.isNaN(v)) drawn = false;
    else {
      path += `${drawn ? 'L' : 'M'}${x(trace.t_s[i]!).toFixed(1)} ${y(v).toFixed(1)}`;
      drawn = true;
    }
  }
  return path;
}

function lastPlace(trace: Trace, channel: string, to: number, y: Scale): number {
  const v = columnOf(trace, channel)[to - 1] ?? NaN;
  return Number.isNaN(v) ? y.domain()[0]! : y(v) + 4;
}
