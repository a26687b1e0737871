import type { WatchedType } from '@rouse/core/aircraft';
import { type LegSpan, legSpans, type RunState } from '@rouse/core/procedure';
import { columnOf, type Trace } from '@rouse/core/trace';
import { useEffect, useMemo, useRef, useState } from 'react';
import { SlimButton } from '../../ui/button.tsx';
import { ChartTitle, Sheet } from '../../charts/frame.tsx';
import { echarts } from '../../charts/echart.ts';
import { minutes } from '../../ui/words.ts';
import { tokenColour, useLight } from '../../platform/light.ts';
import { DataTable } from '../../ui/data-table.tsx';

const TABLE_ROWS = 24;
const GRID = { left: 40, right: 76, top: 30, bottom: 26 };
const LETTER_px = 7.5;

interface WholeRunProps {
  type: WatchedType;
  state: RunState;
  trace: Trace;
}

/** The run from the first item to the last: rotor, gas producer and volts, with the legs over them. */
export function WholeRun({ type, state, trace }: WholeRunProps) {
  const [table, setTable] = useState(false);
  const end_s = trace.t_s[trace.t_s.length - 1] ?? 0;
  const lines = useMemo(() => linesOf(type), [type]);
  return (
    <>
      <ChartTitle title="The whole run" about="drag or use the wheel to look closer">
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
        <Chart trace={trace} legs={legSpans(type, state, end_s)} lines={lines} />
      )}
    </>
  );
}

const figure = (v: number | undefined, decimals: number): string =>
  v === undefined || Number.isNaN(v) ? 'unknown' : v.toFixed(decimals);

interface Line {
  id: string;
  name: string;
  colour: string;
  /** 0: per cent, 1: volts */
  axis: 0 | 1;
}

/** Rotor, the speed of each engine, and the bus. */
function linesOf(type: WatchedType): Line[] {
  const engines = type.startWatches.filter((w) => w.engine > 0);
  const rotor = type.runUpWatch.rotor;
  const short = (id: string): string => type.channels.find((c) => c.id === id)!.short;
  return [
    { id: rotor, name: 'rotor %', colour: '--ink', axis: 0 },
    ...engines.map((w, i): Line => ({
      id: w.channels.speed,
      name: `${short(w.channels.speed)} %`,
      colour: i === 0 ? '--track' : '--limit-edge',
      axis: 0,
    })),
    { id: engines[0]!.channels.volts, name: 'bus V', colour: '--now', axis: 1 },
  ];
}

function Chart({ trace, legs, lines }: { trace: Trace; legs: LegSpan[]; lines: readonly Line[] }) {
  const box = useRef<HTMLDivElement>(null);
  const light = useLight();
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const chart = echarts.init(element, undefined, { renderer: 'canvas' });
    const soft = tokenColour('--soft');
    const font = { fontFamily: 'Atkinson Mono', fontSize: 11.5, color: soft };
    const line = ({ id, name, colour, axis }: Line): object => ({
      name,
      type: 'line',
      showSymbol: false,
      animation: false,
      yAxisIndex: axis,
      sampling: 'lttb',
      labelLayout: { moveOverlap: 'shiftY' },
      lineStyle: { color: tokenColour(colour), width: 2.2, type: axis === 1 ? 'dashed' : 'solid' },
      itemStyle: { color: tokenColour(colour) },
      endLabel: { show: true, formatter: name, ...font, color: tokenColour(colour), distance: 4 },
      data: Array.from(trace.t_s, (t, i) => [t, nullIfLost(columnOf(trace, id)[i]!)]),
    });
    const grounds = ['--hair', '--usual1', '--usual2'].map(tokenColour);
    const end_s = trace.t_s[trace.t_s.length - 1] ?? 0;
    // the name of a leg is written where it has room; the journal beside it has them all
    const nameOf = (leg: LegSpan): string => {
      const room_px = ((leg.to_s - leg.from_s) / end_s) * (element.clientWidth - GRID.left - GRID.right);
      return leg.label.length * LETTER_px < room_px ? leg.label.toLowerCase() : '';
    };
    const option = () => ({
      animation: false,
      grid: GRID,
      tooltip: {
        trigger: 'axis',
        renderMode: 'richText',
        valueFormatter: (v: unknown) => (typeof v === 'number' ? v.toFixed(1) : 'unknown'),
      },
      xAxis: {
        type: 'value',
        min: 0,
        max: 'dataMax',
        axisLabel: { ...font, formatter: (v: number) => minutes(v) },
        splitLine: { show: false },
      },
      yAxis: [
        {
          type: 'value',
          min: 0,
          max: 120,
          interval: 40,
          axisLabel: font,
          splitLine: { lineStyle: { color: tokenColour('--grid') } },
        },
        { type: 'value', min: 10, max: 32, show: false },
      ],
      dataZoom: [{ type: 'inside', filterMode: 'none' }],
      series: [
        {
          ...line(lines[0]!),
          markArea: {
            silent: true,
            label: { ...font, position: 'insideTop', distance: -16 },
            data: legs.map((leg, i) => [
              {
                name: nameOf(leg),
                xAxis: leg.from_s,
                itemStyle: { color: grounds[i % 3], opacity: 0.5 },
              },
              { xAxis: leg.to_s },
            ]),
          },
        },
        ...lines.slice(1).map(line),
      ],
    });
    const observer = new ResizeObserver(() => {
      chart.resize();
      chart.setOption(option());
    });
    observer.observe(element);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [trace, legs, lines, light]);
  return (
    <Sheet>
      <div
        ref={box}
        style={{ position: 'absolute', inset: 0 }}
        role="img"
        aria-label="Rotor, engines and bus volts over the whole run"
      />
    </Sheet>
  );
}

const nullIfLost = (v: number): number | null => (Number.isNaN(v) ? null : v);
