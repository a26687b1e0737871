import type { Ink } from '../../charts/chart.tsx';
import { figureIn } from '../../ui/figures.ts';
import type { UnitsOfPerson } from '../../ui/units.ts';
import { COLDEST_C, type HeldMap, HOTTEST_C, TEMPERATURES_C, type WhatIf } from './board-figures.ts';
import type { Flights } from './use-flights.ts';

interface Drawn {
  units: UnitsOfPerson['units'];
  show: UnitsOfPerson['show'];
  held: HeldMap;
  what: WhatIf;
  /** lightest and heaviest weight of the grid, kg */
  weights_kg: readonly [number, number];
  /** failures flown in this air, null when they were flown in another */
  flown: Flights | null;
}

/** Weight against temperature: the areas that each rating does not hold, the failures flown, and the point asked about. */
export function failureDrawing(ink: Ink, { units, show, held, what, weights_kg, flown }: Drawn): object {
  const mass = (kg: number): number => figureIn(kg, 'mass', units);
  const axisLabel = { fontFamily: ink.font, color: ink.colour('--soft') };
  const splitLine = { lineStyle: { color: ink.colour('--grid') } };
  return {
    grid: { left: 58, right: 16, top: 12, bottom: 28 },
    xAxis: {
      type: 'value',
      min: COLDEST_C,
      max: HOTTEST_C,
      axisLabel: { ...axisLabel, formatter: (v: number) => show(v, 'temperature') },
      splitLine,
    },
    yAxis: {
      type: 'value',
      min: Math.floor(mass(weights_kg[0] * 0.99)),
      max: Math.ceil(mass(weights_kg[1] * 1.02)),
      axisLabel: { ...axisLabel, showMinLabel: false, showMaxLabel: false },
      splitLine,
    },
    series: [
      ...held.ratings.map((curve, i) => heldLine(ink, curve, i, mass)),
      ...flownPoints(ink, flown, mass),
      {
        type: 'scatter',
        z: 12,
        silent: true,
        symbolSize: 15,
        data: [[what.oat_C, mass(what.mass_kg)]],
        itemStyle: { color: ink.colour('--deep'), borderColor: ink.colour('--now'), borderWidth: 3.5 },
      },
    ],
  };
}

function heldLine(ink: Ink, curve: HeldMap['ratings'][number], i: number, mass: (kg: number) => number): object {
  return {
    symbol: 'none',
    silent: true,
    type: 'line',
    z: 2 + i,
    name: curve.name,
    data: TEMPERATURES_C.map((t, k) => [t, Number.isNaN(curve.kg[k]) ? null : mass(curve.kg[k]!)]),
    areaStyle: {
      origin: 'end',
      opacity: 1,
      color: curve.hard ? ink.limitFill : ink.colour(i === 0 ? '--band1' : '--band2'),
    },
    lineStyle: {
      color: ink.colour('--limit-edge'),
      width: curve.hard ? 2 : 1.4,
      type: curve.hard ? 'solid' : i === 0 ? [2, 4] : [7, 4],
    },
    endLabel: { show: false },
  };
}

/** A dot where the hover was held, a cross where it came down. */
function flownPoints(ink: Ink, flown: Flights | null, mass: (kg: number) => number): object[] {
  const of = (stayed: boolean): number[][] =>
    flown?.points.flatMap((p, i) => (flown.holds[i] === stayed ? [[p.oat_C, mass(p.mass_kg)]] : [])) ?? [];
  const points = { type: 'scatter', z: 8, silent: true };
  return [
    { ...points, symbol: 'circle', symbolSize: 6, data: of(true), itemStyle: { color: ink.colour('--track') } },
    {
      ...points,
      symbol: 'path://M0 0L8 8M8 0L0 8',
      symbolSize: 7,
      data: of(false),
      itemStyle: { color: 'transparent', borderColor: ink.colour('--warning'), borderWidth: 1.6 },
    },
  ];
}
