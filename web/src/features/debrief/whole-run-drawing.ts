import type { Moment } from '@rouse/core/debrief';
import type { LegSpan } from '@rouse/core/procedure';
import { columnOf, type Trace } from '@rouse/core/trace';
import { tokenColour } from '../../platform/light.ts';
import { minutes } from '../../ui/words.ts';

const GRID = { left: 40, right: 44, top: 30, bottom: 26 };
const LETTER_px = 7.5;

export interface Line {
  id: string;
  name: string;
  colour: string;
  /** lines differ by this too, not by colour alone */
  dash: 'solid' | 'dashed' | 'dotted';
  /** 0: per cent, 1: volts */
  axis: 0 | 1;
}

interface WholeRunParts {
  trace: Trace;
  legs: readonly LegSpan[];
  lines: readonly Line[];
  moments: readonly Moment[];
  /** of the drawing, for the names that fit */
  width_px: number;
}

/** The run as lines over time, with its legs as grounds and its moments as marks. */
export function wholeRunDrawing({ trace, legs, lines, moments, width_px }: WholeRunParts) {
  const soft = tokenColour('--soft');
  const font = { fontFamily: 'Atkinson Mono', fontSize: 11.5, color: soft };
  const line = ({ id, name, colour, dash, axis }: Line): object => ({
    name,
    type: 'line',
    showSymbol: false,
    animation: false,
    yAxisIndex: axis,
    sampling: 'lttb',
    lineStyle: { color: tokenColour(colour), width: 2.2, type: dash },
    itemStyle: { color: tokenColour(colour) },
    data: Array.from(trace.t_s, (t, i) => [t, nullIfLost(columnOf(trace, id)[i]!)]),
  });
  const grounds = ['--hair', '--usual1', '--usual2'].map(tokenColour);
  const end_s = trace.t_s[trace.t_s.length - 1] ?? 0;
  // the name of a leg is written where it has room; the journal beside it has them all
  const nameOf = (leg: LegSpan): string => {
    const room_px = ((leg.to_s - leg.from_s) / end_s) * (width_px - GRID.left - GRID.right);
    return leg.label.length * LETTER_px < room_px ? leg.label.toLowerCase() : '';
  };
  return {
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
      {
        type: 'value',
        ...voltsRange(trace, lines),
        position: 'right',
        axisLabel: { ...font, formatter: (v: number) => `${v} V` },
        splitLine: { show: false },
      },
    ],
    dataZoom: [{ type: 'inside', filterMode: 'none' }],
    series: [
      {
        ...line(lines[0]!),
        markLine: marksOf(moments),
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
  };
}

const nullIfLost = (v: number): number | null => (Number.isNaN(v) ? null : v);

function marksOf(moments: readonly Moment[]): object {
  return {
    silent: true,
    symbol: 'none',
    label: { show: false },
    lineStyle: { color: tokenColour('--now'), type: 'solid', width: 1, opacity: 0.6 },
    data: moments.map((m) => ({ xAxis: m.t_s })),
  };
}

/** A scale of its own for the bus: of twelve volts, or of twenty-eight. */
function voltsRange(trace: Trace, lines: readonly Line[]): { min: number; max: number; interval: number } {
  const bus = lines.find((l) => l.axis === 1);
  const highest = bus ? columnOf(trace, bus.id).reduce((a, v) => (v > a ? v : a), 0) : 0;
  return highest > 16 ? { min: 8, max: 32, interval: 8 } : { min: 4, max: 16, interval: 4 };
}
