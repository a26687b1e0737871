import { known, windOf } from '@rouse/core/brief';
import { rotorWindLimit, SIDES } from '@rouse/core/weather';
import { useMemo } from 'react';
import { Chart, type Ink } from '../../charts/chart.tsx';
import { figureIn } from '../../ui/figures.ts';
import { useUnits } from '../../ui/units.ts';
import type { BriefDesk } from './desk.ts';

const SIDE_NAMES = { HEAD: 'ahead', RIGHT: 'right', TAIL: 'behind', LEFT: 'left' } as const;

/** The rotor's wind limit as a bay around the aircraft, and today's wind in it. Up is the nose. */
export function WindDrawing({ desk }: { desk: BriefDesk }) {
  const { units, show, sign } = useUnits();
  const { context, input, brief } = desk;
  const limits = context.type.wind.rotor_kt;
  const { wind, heading_deg } = input;
  const relative = known(brief.components)?.relative_deg ?? null;
  const { speed_kt: speed, gust_kt: gust } = wind;
  const edge = useMemo(() => limitEdge(limits), [limits]);

  const draw = useMemo(() => {
    const most = Math.max(...SIDES.map((s) => limits.start[s]), gust ?? 0, speed ?? 0) * 1.12;
    const kt = (v: number): number => figureIn(v, 'wind', units);
    return windOption({ most_kt: most, edge, relative_deg: relative, speed_kt: speed, gust_kt: gust, kt });
  }, [limits, edge, relative, speed, gust, units]);

  const rotor = known(brief.rotorStart);
  const stop = known(brief.rotorStop);
  const about = rotor?.limit_kt
    ? `${figureIn(rotor.wind_kt ?? 0, 'wind', units, 'ceil')} of ${figureIn(rotor.limit_kt, 'wind', units, 'floor')} ${sign('wind')}`
    : windOf(input) && heading_deg === null
      ? 'where does the nose point?'
      : 'wind unknown';
  return (
    <Chart
      title="Rotor wind"
      about={about}
      label="Wind limits for starting the rotor around the aircraft, nose up, with today's wind"
      draw={draw}
      missing=""
      figures={{
        head: ['Wind from', 'Start', 'Stop'],
        rows: [
          ...SIDES.map((s) => [
            SIDE_NAMES[s],
            show(limits.start[s], 'wind', 'floor'),
            show(limits.stop[s], 'wind', 'floor'),
          ]),
          ['today', rotor?.verdict.toLowerCase() ?? 'unknown', stop?.verdict.toLowerCase() ?? 'unknown'],
        ],
      }}
    />
  );
}

type RotorWindLimits = Parameters<typeof rotorWindLimit>[0]['limits'];

/** The limit of the start all around, as wind speed in kt and angle from the nose. */
function limitEdge(limits: RotorWindLimits): [number, number][] {
  const out: [number, number][] = [];
  for (let a = 0; a <= 360; a += 3) {
    const wind = { dir_deg: a, from_deg: null, to_deg: null, speed_kt: 1, gust_kt: null };
    const at = rotorWindLimit({
      wind: { kind: 'steady', ...wind, at_least: false, unit: 'KT' },
      phase: 'start',
      heading_deg: 0,
      heading_ref: 'true',
      limits,
    });
    out.push([at.limit_kt!, a]);
  }
  return out;
}

/** What is drawn; `kt` brings knots to the unit of the screen. */
interface WindPicture {
  most_kt: number;
  edge: readonly [number, number][];
  relative_deg: number | null;
  speed_kt: number | null;
  gust_kt: number | null;
  kt: (v: number) => number;
}

const POLAR = { coordinateSystem: 'polar', silent: true };
const NO_AXIS = { axisLine: { show: false }, axisTick: { show: false } };

const windOption =
  (picture: WindPicture) =>
  (ink: Ink): object => ({
    polar: { radius: '88%' },
    angleAxis: {
      type: 'value',
      min: 0,
      max: 360,
      startAngle: 90,
      clockwise: true,
      interval: 90,
      ...NO_AXIS,
      axisLabel: { show: false },
      splitLine: { show: false },
    },
    radiusAxis: {
      type: 'value',
      min: 0,
      max: picture.kt(picture.most_kt),
      splitNumber: 3,
      ...NO_AXIS,
      axisLabel: {
        fontFamily: ink.font,
        fontSize: 10.5,
        color: ink.colour('--soft'),
        showMaxLabel: false,
        showMinLabel: false,
      },
      splitLine: { lineStyle: { color: ink.colour('--grid') } },
      z: 5,
    },
    series: [...aroundRotor(picture, ink), ...windMarks(picture, ink)],
  });

function aroundRotor({ most_kt, edge, kt }: WindPicture, ink: Ink): object[] {
  return [
    {
      ...POLAR,
      type: 'line',
      symbol: 'none',
      z: 1,
      data: Array.from({ length: 73 }, (_, i) => [kt(most_kt), i * 5]),
      areaStyle: { color: ink.limitFill, opacity: 1 },
      lineStyle: { opacity: 0 },
    },
    {
      ...POLAR,
      type: 'line',
      symbol: 'none',
      z: 2,
      data: edge.map(([v, a]) => [kt(v), a]),
      areaStyle: { color: ink.colour('--usual2'), opacity: 1 },
      lineStyle: { color: ink.colour('--limit-edge'), width: 2 },
    },
    {
      ...POLAR,
      type: 'scatter',
      z: 6,
      symbol: 'path://M0 -18 L6 2 L0 14 L-6 2 Z',
      symbolSize: [16, 38],
      data: [[0, 0]],
      itemStyle: { color: ink.colour('--ink') },
    },
  ];
}

function windMarks({ most_kt, relative_deg, speed_kt, gust_kt, kt }: WindPicture, ink: Ink): object[] {
  if (relative_deg === null || speed_kt === null) return [];
  return [
    {
      ...POLAR,
      type: 'line',
      symbol: 'none',
      z: 7,
      data: [
        [kt(most_kt * 0.14), relative_deg],
        [kt(gust_kt ?? speed_kt), relative_deg],
      ],
      lineStyle: { color: ink.colour('--now'), width: 3 },
    },
    {
      ...POLAR,
      type: 'scatter',
      z: 8,
      symbolSize: 13,
      data: [[kt(speed_kt), relative_deg]],
      itemStyle: { color: ink.colour('--deep'), borderColor: ink.colour('--now'), borderWidth: 3 },
    },
    {
      ...POLAR,
      type: 'scatter',
      z: 8,
      symbolSize: 9,
      data: gust_kt === null ? [] : [[kt(gust_kt), relative_deg]],
      itemStyle: { color: ink.colour('--now') },
    },
  ];
}
