import { known } from '@rouse/core/brief';
import { useMemo } from 'react';
import { Chart, type Ink } from '../../charts/chart.tsx';
import { figureIn } from '../../ui/figures.ts';
import { useUnits } from '../../ui/units.ts';
import type { BriefDesk } from './desk.ts';

/** Weight over centre of gravity, with the envelope as the usual ground and the way from start to no fuel. */
export function EnvelopeDrawing({ desk }: { desk: BriefDesk }) {
  const { units, show } = useUnits();
  const { brief, context } = desk;
  const { envelope } = context.type.loading;
  const balance = known(brief.balance);
  const landing = known(brief.landing)?.ramp ?? null;
  const draw = useMemo(() => {
    const mass = (kg: number): number => figureIn(kg, 'mass', units);
    const xs = envelope.long_poly.map((p) => p[0]);
    const ys = envelope.long_poly.map((p) => p[1]);
    const points = balance ? [balance.ramp, balance.takeoff, ...(landing ? [landing] : []), balance.zero_fuel] : [];
    const [left, right] = [
      Math.min(...xs, ...points.map((p) => p.cg_long_m)),
      Math.max(...xs, ...points.map((p) => p.cg_long_m)),
    ];
    const pad = (right - left) * 0.12;
    const low = Math.min(...ys, ...points.map((p) => p.mass_kg)) * 0.97;
    const high = Math.max(...ys, ...points.map((p) => p.mass_kg)) * 1.04;
    return (ink: Ink): object => ({
      grid: { left: 50, right: 12, top: 10, bottom: 24 },
      xAxis: {
        type: 'value',
        min: left - pad,
        max: right + pad,
        axisLabel: {
          fontFamily: ink.font,
          color: ink.colour('--soft'),
          formatter: (v: number) => v.toFixed(2),
          hideOverlap: true,
          showMinLabel: false,
          showMaxLabel: false,
        },
        splitLine: { lineStyle: { color: ink.colour('--grid') } },
      },
      yAxis: {
        type: 'value',
        min: Math.floor(mass(low) / 50) * 50,
        max: Math.ceil(mass(high) / 50) * 50,
        axisLabel: { fontFamily: ink.font, color: ink.colour('--soft'), showMinLabel: false, showMaxLabel: false },
        splitLine: { lineStyle: { color: ink.colour('--grid') } },
      },
      series: [
        {
          type: 'line',
          silent: true,
          symbol: 'none',
          z: 1,
          data: [
            [left - pad, mass(high * 1.2)],
            [right + pad, mass(high * 1.2)],
          ],
          areaStyle: { color: ink.limitFill, opacity: 1, origin: 'start' },
          lineStyle: { opacity: 0 },
        },
        ...upper(envelope.long_poly).map((edge) => ({
          type: 'line',
          silent: true,
          symbol: 'none',
          z: 2,
          data: edge.map(([x, y]) => [x, mass(y)]),
          areaStyle: { color: ink.colour('--usual2'), opacity: 1, origin: 'start' },
          lineStyle: { opacity: 0 },
        })),
        {
          type: 'line',
          silent: true,
          symbol: 'none',
          z: 3,
          data: [...envelope.long_poly, envelope.long_poly[0]!].map(([x, y]) => [x, mass(y)]),
          lineStyle: { color: ink.colour('--limit-edge'), width: 2 },
        },
        {
          type: 'line',
          silent: true,
          symbol: 'none',
          z: 4,
          data: points.map((p) => [p.cg_long_m, mass(p.mass_kg)]),
          lineStyle: { color: ink.colour('--ink'), width: 2 },
        },
        {
          type: 'scatter',
          silent: true,
          z: 5,
          symbolSize: 13,
          data: balance ? [[balance.takeoff.cg_long_m, mass(balance.takeoff.mass_kg)]] : [],
          itemStyle: { color: ink.colour('--deep'), borderColor: ink.colour('--now'), borderWidth: 3 },
          label: { show: true, position: 'right', formatter: 'lift', fontFamily: ink.font, color: ink.colour('--ink') },
        },
        {
          type: 'scatter',
          silent: true,
          z: 5,
          symbolSize: 7,
          data: landing ? [[landing.cg_long_m, mass(landing.mass_kg)]] : [],
          itemStyle: { color: ink.colour('--ink') },
          label: {
            show: true,
            position: 'right',
            formatter: 'landing',
            fontFamily: ink.font,
            color: ink.colour('--ink'),
          },
        },
        {
          type: 'scatter',
          silent: true,
          z: 5,
          symbolSize: 7,
          symbol: 'diamond',
          data: balance ? [[balance.zero_fuel.cg_long_m, mass(balance.zero_fuel.mass_kg)]] : [],
          itemStyle: { color: ink.colour('--soft') },
          label: {
            show: true,
            position: 'right',
            formatter: 'no fuel',
            fontFamily: ink.font,
            color: ink.colour('--soft'),
          },
        },
      ],
    });
  }, [envelope, balance, landing, units]);
  const row = (name: string, p: NonNullable<typeof landing>): string[] => [
    name,
    show(p.mass_kg, 'mass', 'ceil'),
    p.cg_long_m.toFixed(3),
    p.cg_lat_m.toFixed(3),
    p.status.toLowerCase().replace('_', ' '),
  ];
  return (
    <Chart
      title="Balance"
      about={balance ? balance.takeoff.status.toLowerCase().replace('_', ' ') : 'arm in m'}
      label="Weight over longitudinal centre of gravity, with the envelope"
      draw={draw}
      missing=""
      figures={{
        head: ['', 'Weight', 'Along, m', 'Across, m', 'Envelope'],
        rows: balance
          ? [
              row('start', balance.ramp),
              row('lift', balance.takeoff),
              ...(landing ? [row('landing', landing)] : []),
              row('no fuel', balance.zero_fuel),
            ]
          : [],
      }}
    />
  );
}

/** The upper edge of a polygon from its leftmost to its rightmost point: what the envelope reaches up to. */
function upper(polygon: readonly (readonly [number, number])[]): [number, number][][] {
  const xs = [...new Set(polygon.map((p) => p[0]))].toSorted((a, b) => a - b);
  const edges = polygon.map((p, i) => [p, polygon[(i + 1) % polygon.length]!] as const);
  const top = (x: number): number =>
    Math.max(
      ...edges.flatMap(([[ax, ay], [bx, by]]) => {
        if (x < Math.min(ax, bx) || x > Math.max(ax, bx)) return [];
        return ax === bx ? [ay, by] : [ay + ((x - ax) / (bx - ax)) * (by - ay)];
      }),
    );
  return [xs.map((x) => [x, top(x)])];
}
