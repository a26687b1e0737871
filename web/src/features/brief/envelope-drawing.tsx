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
    return envelopeOption({ polygon: envelope.long_poly, balance, landing, mass });
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
function upper(polygon: readonly (readonly [number, number])[]): [number, number][] {
  const xs = [...new Set(polygon.map((p) => p[0]))].toSorted((a, b) => a - b);
  const edges = polygon.map((p, i) => [p, polygon[(i + 1) % polygon.length]!] as const);
  const top = (x: number): number =>
    Math.max(
      ...edges.flatMap(([[ax, ay], [bx, by]]) => {
        if (x < Math.min(ax, bx) || x > Math.max(ax, bx)) return [];
        return ax === bx ? [ay, by] : [ay + ((x - ax) / (bx - ax)) * (by - ay)];
      }),
    );
  return xs.map((x) => [x, top(x)]);
}

type BalanceFigure = Extract<BriefDesk['brief']['balance'], { value: unknown }>['value'];

/** What is drawn; `mass` brings kg to the unit of the screen. */
interface EnvelopePicture {
  polygon: readonly (readonly [number, number])[];
  balance: BalanceFigure | null;
  landing: BalanceFigure['ramp'] | null;
  mass: (kg: number) => number;
}

function envelopeOption(picture: EnvelopePicture) {
  const { polygon, balance, landing, mass } = picture;
  const points = balance ? [balance.ramp, balance.takeoff, ...(landing ? [landing] : []), balance.zero_fuel] : [];
  const xs = [...polygon.map((p) => p[0]), ...points.map((p) => p.cg_long_m)];
  const ys = [...polygon.map((p) => p[1]), ...points.map((p) => p.mass_kg)];
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const pad = (right - left) * 0.12;
  const [low, high] = [Math.min(...ys) * 0.97, Math.max(...ys) * 1.04];
  const corners: [number, number][] = [
    [left - pad, high * 1.2],
    [right + pad, high * 1.2],
  ];
  const way = points.map((p): [number, number] => [p.cg_long_m, p.mass_kg]);
  return (ink: Ink): object => {
    const splitLine = { lineStyle: { color: ink.colour('--grid') } };
    const text = {
      fontFamily: ink.font,
      color: ink.colour('--soft'),
      showMinLabel: false,
      showMaxLabel: false,
    };
    const line = (z: number, at: readonly (readonly [number, number])[], style: object): object => ({
      type: 'line',
      silent: true,
      symbol: 'none',
      z,
      data: at.map(([x, y]) => [x, mass(y)]),
      lineStyle: { opacity: 0 },
      ...style,
    });
    return {
      grid: { left: 50, right: 12, top: 10, bottom: 24 },
      xAxis: {
        type: 'value',
        min: left - pad,
        max: right + pad,
        axisLabel: { ...text, formatter: (v: number) => v.toFixed(2), hideOverlap: true },
        splitLine,
      },
      yAxis: {
        type: 'value',
        min: Math.floor(mass(low) / 50) * 50,
        max: Math.ceil(mass(high) / 50) * 50,
        axisLabel: text,
        splitLine,
      },
      series: [
        line(1, corners, { areaStyle: { color: ink.limitFill, opacity: 1, origin: 'start' } }),
        line(2, upper(polygon), { areaStyle: { color: ink.colour('--usual2'), opacity: 1, origin: 'start' } }),
        line(3, [...polygon, polygon[0]!], { lineStyle: { color: ink.colour('--limit-edge'), width: 2 } }),
        line(4, way, { lineStyle: { color: ink.colour('--ink'), width: 2 } }),
        ...balanceMarks(picture, ink),
      ],
    };
  };
}

function balanceMarks({ balance, landing, mass }: EnvelopePicture, ink: Ink): object[] {
  const mark = (name: string, at: BalanceFigure['ramp'] | null, token: string, style: object): object => ({
    type: 'scatter',
    silent: true,
    z: 5,
    symbolSize: 7,
    data: at ? [[at.cg_long_m, mass(at.mass_kg)]] : [],
    itemStyle: { color: ink.colour(token) },
    label: { show: true, position: 'right', formatter: name, fontFamily: ink.font, color: ink.colour(token) },
    ...style,
  });
  return [
    mark('lift', balance?.takeoff ?? null, '--ink', {
      symbolSize: 13,
      itemStyle: { color: ink.colour('--deep'), borderColor: ink.colour('--now'), borderWidth: 3 },
    }),
    mark('landing', landing, '--ink', {}),
    mark('no fuel', balance?.zero_fuel ?? null, '--soft', { symbol: 'diamond' }),
  ];
}
