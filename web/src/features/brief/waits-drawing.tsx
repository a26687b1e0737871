import { useMemo } from 'react';
import { Chart, type Ink } from '../../charts/chart.tsx';
import { minutes } from '../../ui/words.ts';
import type { BriefDesk } from './desk.ts';

type Schedule = BriefDesk['brief']['schedule'];

/** Everything that takes its own time between the first item and ready, longest first. */
export function WaitsDrawing({ desk: { brief } }: { desk: BriefDesk }) {
  const { schedule } = brief;
  const [early] = schedule.beginFirst;
  const waits = useMemo(
    () =>
      schedule.planned
        .filter((p) => p.item.kind === 'wait' || p.item.kind === 'watch')
        .toSorted((a, b) => b.to_s - b.from_s - (a.to_s - a.from_s))
        .slice(0, 7),
    [schedule],
  );
  const draw = useMemo(
    () =>
      (ink: Ink): object =>
        waitBars(ink, waits, schedule.ready_s),
    [waits, schedule],
  );
  return (
    <Chart
      title="Waits, longest first"
      about={`held by ${schedule.heldBy?.challenge.toLowerCase() ?? 'nothing'}${early ? `; begin ${early.challenge.toLowerCase()} early` : ''}`}
      label="Waits between the first item and ready, on a time line"
      draw={draw}
      missing=""
      figures={{
        head: ['Wait', 'Begins', 'Ends', 'Takes', 'Holds the rest'],
        rows: waits.map((w) => [
          w.item.challenge,
          minutes(w.from_s),
          minutes(w.to_s),
          minutes(w.to_s - w.from_s),
          w.critical ? 'yes' : 'no',
        ]),
      }}
    />
  );
}

/** One bar a wait on a time line, and a line at ready. */
function waitBars(ink: Ink, waits: Schedule['planned'], ready_s: number): object {
  return {
    grid: { left: 158, right: 48, top: 4, bottom: 22 },
    xAxis: {
      type: 'value',
      min: 0,
      max: Math.ceil(ready_s / 60) * 60,
      interval: 60 * Math.max(1, Math.ceil(ready_s / 300)),
      axisLabel: {
        fontFamily: ink.font,
        color: ink.colour('--soft'),
        formatter: (v: number) => `${v / 60} min`,
        hideOverlap: true,
      },
      splitLine: { lineStyle: { color: ink.colour('--grid') } },
    },
    yAxis: {
      type: 'category',
      inverse: true,
      data: waits.map((w) => w.item.challenge.toLowerCase()),
      axisLine: { show: false },
      axisTick: { show: false },
      axisLabel: {
        fontFamily: ink.font,
        fontSize: 11.5,
        color: ink.colour('--soft'),
        width: 148,
        overflow: 'truncate',
      },
    },
    series: [
      {
        type: 'bar',
        stack: 'w',
        silent: true,
        data: waits.map((w) => w.from_s),
        itemStyle: { color: 'transparent' },
      },
      {
        type: 'bar',
        stack: 'w',
        silent: true,
        barMaxWidth: 12,
        data: waits.map((w) => ({
          value: Math.max(1, w.to_s - w.from_s),
          itemStyle: { color: ink.colour(w.critical ? '--now' : '--track'), borderRadius: 3 },
        })),
        label: {
          show: true,
          position: 'right',
          fontFamily: ink.font,
          fontSize: 11.5,
          color: ink.colour('--soft'),
          formatter: ({ value }: { value: number }) => minutes(value),
        },
        markLine: {
          silent: true,
          symbol: 'none',
          label: { show: false },
          lineStyle: { color: ink.colour('--ink'), type: [3, 3] },
          data: [{ xAxis: ready_s }],
        },
      },
    ],
  };
}
