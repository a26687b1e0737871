import { known } from '@rouse/core/brief';
import { maxHoverMass, OEI_MARGIN_frac, oeiMasses, type PoweredAircraft } from '@rouse/core/power';
import { attempt, isRefusal, roundStep } from '@rouse/core/quantity';
import { useMemo } from 'react';
import { Chart, type Ink } from '../../parts/coast/chart.tsx';
import { figureIn, useUnits } from '../../parts/units.ts';
import type { BriefDesk } from './desk.ts';

const STEP_C = 5;
const WIDE_C = 25;

interface Curves {
  oat: number[];
  /** coasts from the sea up, kg by temperature; NaN where there is none */
  coasts: { name: string; kg: number[]; hard: boolean }[];
}

/** Weights that can be hovered against temperature, at today's pressure. */
function curvesOf(desk: BriefDesk): Curves | null {
  const { context, input, brief } = desk;
  const pa_ft = known(brief.pressureAltitude_ft);
  const { engine, hover } = context.type.performance;
  if (pa_ft === null || !engine) return null;
  const { mtow_kg, empty_kg } = context.type.loading;
  const engines = context.type.engines.length;
  const aircraft: PoweredAircraft = { ...hover, engine, engines, mtow_kg, empty_kg };
  const middle = Math.round((input.oat_C ?? 10) / STEP_C) * STEP_C;
  const oat: number[] = [];
  for (let t = Math.max(-40, middle - WIDE_C); t <= Math.min(50, middle + WIDE_C); t += STEP_C) oat.push(t);
  const masses = (of: (oat_C: number) => number): number[] =>
    oat.map((oat_C) => {
      const mass = attempt(() => of(oat_C));
      return isRefusal(mass) ? NaN : roundStep(mass as number, 10, 'floor');
    });
  const air = (oat_C: number): { pa_ft: number; oat_C: number; bleed: string } => ({
    pa_ft,
    oat_C,
    bleed: input.bleed,
  });
  if (engines > 1) {
    const held = (rating: 'OEI_CONT' | 'OEI_2MIN' | 'OEI_30S'): number[] =>
      masses((t) => oeiMasses(aircraft, air(t), OEI_MARGIN_frac)[rating].oge_kg);
    return {
      oat,
      coasts: [
        { name: 'holds on continuous', kg: held('OEI_CONT'), hard: false },
        { name: 'holds two minutes', kg: held('OEI_2MIN'), hard: false },
        { name: 'holds thirty seconds', kg: held('OEI_30S'), hard: true },
      ],
    };
  }
  return {
    oat,
    coasts: [
      {
        name: 'out of ground effect',
        kg: masses((t) => maxHoverMass(aircraft, { ...air(t), rating: 'TOP' }).mass_power_kg),
        hard: false,
      },
      {
        name: 'in ground effect',
        kg: masses((t) => maxHoverMass(aircraft, { ...air(t), rating: 'TOP', skid_height_ft: 5 }).mass_power_kg),
        hard: true,
      },
    ],
  };
}

/** Twins: the weight that one engine holds. Singles: the weight that can be hovered. The aircraft stands on the water. */
export function WeightDrawing({ desk }: { desk: BriefDesk }) {
  const { units, show } = useUnits();
  const { context, input, brief } = desk;
  const twin = context.type.engines.length > 1;
  const pa_ft = known(brief.pressureAltitude_ft);
  const middle = Math.round((input.oat_C ?? 10) / STEP_C);
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const curves = useMemo(() => curvesOf(desk), [pa_ft, middle, input.bleed, context.type]);
  const lift = known(brief.liftMass_kg);
  const landing = known(brief.landing)?.ramp.mass_kg ?? null;
  const oat = input.oat_C;
  const { mtow_kg } = context.type.loading;

  const draw = useMemo(() => {
    if (!curves) return null;
    const mass = (kg: number): number => figureIn(kg, 'mass', units);
    const all = curves.coasts.flatMap((c) => c.kg).filter((v) => !Number.isNaN(v));
    const low = Math.min(...all, lift ?? Infinity, landing ?? Infinity) * 0.96;
    const high = Math.max(...all, lift ?? 0, mtow_kg) * 1.03;
    return (ink: Ink): object => {
      const fills = curves.coasts.length === 3 ? ['--shoal1', '--shoal2'] : ['--shoal2'];
      const label = { fontFamily: ink.font, fontSize: 11.5, color: ink.colour('--coast-ink') };
      return {
        grid: { left: 54, right: 14, top: 10, bottom: 26 },
        xAxis: {
          type: 'value',
          min: curves.oat[0],
          max: curves.oat[curves.oat.length - 1],
          axisLabel: {
            fontFamily: ink.font,
            color: ink.colour('--soft'),
            formatter: (v: number) => `${v} °C`,
            hideOverlap: true,
          },
          splitLine: { lineStyle: { color: ink.colour('--grid') } },
          axisLine: { show: false },
        },
        yAxis: {
          type: 'value',
          min: mass(roundStep(low, 50, 'floor')),
          max: mass(roundStep(high, 50, 'ceil')),
          axisLabel: { fontFamily: ink.font, color: ink.colour('--soft'), showMinLabel: false, showMaxLabel: false },
          splitLine: { lineStyle: { color: ink.colour('--grid') } },
        },
        series: [
          {
            type: 'line',
            data: [
              [curves.oat[0], mass(high * 1.1)],
              [curves.oat[curves.oat.length - 1], mass(high * 1.1)],
            ],
            areaStyle: { color: ink.colour('--water2'), opacity: 1, origin: 'start' },
            lineStyle: { opacity: 0 },
            symbol: 'none',
            silent: true,
            z: 1,
          },
          ...curves.coasts.map((coast, i) => ({
            type: 'line',
            smooth: true,
            symbol: 'none',
            silent: true,
            z: 2 + i,
            data: curves.oat.map((t, k) => [t, Number.isNaN(coast.kg[k]) ? null : mass(coast.kg[k]!)]),
            areaStyle: {
              origin: 'end',
              opacity: 1,
              color: coast.hard ? ink.land : ink.colour(fills[i] ?? '--shoal2'),
            },
            lineStyle: {
              color: ink.colour('--coast'),
              width: coast.hard ? 2 : 1.4,
              type: coast.hard ? 'solid' : i === 0 ? [2, 4] : [7, 4],
            },
            markPoint: undefined,
            endLabel: { show: false },
            label: { show: false },
          })),
          ...curves.coasts.map((coast, i) => ({
            type: 'scatter',
            z: 12,
            silent: true,
            symbolSize: 0.1,
            data: [[curves.oat[1], mass(coast.kg[1]!)]],
            label: {
              ...label,
              show: true,
              position: 'bottom',
              align: 'left',
              distance: 7,
              formatter: i === 0 && !twin ? 'hovers anywhere below' : coast.name,
            },
          })),
          {
            type: 'scatter',
            z: 12,
            silent: true,
            symbolSize: 0.1,
            data: [[curves.oat[curves.oat.length - 2], mass(high * 0.985)]],
            label: {
              ...label,
              show: true,
              fontWeight: 700,
              align: 'right',
              position: 'bottom',
              backgroundColor: ink.colour('--land'),
              padding: [2, 4],
              formatter: twin ? 'comes down' : 'no hover',
            },
          },
          {
            type: 'line',
            z: 11,
            symbol: 'none',
            silent: true,
            data: [
              [curves.oat[0], mass(mtow_kg)],
              [curves.oat[curves.oat.length - 1], mass(mtow_kg)],
            ],
            lineStyle: { color: ink.colour('--ink'), width: 1.2, type: [1, 3] },
            endLabel: { show: false },
          },
          ...(oat !== null && lift !== null
            ? [
                {
                  type: 'line',
                  z: 13,
                  silent: true,
                  symbol: 'none',
                  data: [
                    [oat, mass(lift)],
                    [oat, mass(landing ?? lift)],
                  ],
                  lineStyle: { color: ink.colour('--ink'), width: 2.6 },
                },
                {
                  type: 'scatter',
                  z: 14,
                  silent: true,
                  symbolSize: 15,
                  data: [[oat, mass(lift)]],
                  itemStyle: { color: ink.colour('--deep'), borderColor: ink.colour('--now'), borderWidth: 3.5 },
                  label: {
                    ...label,
                    show: true,
                    color: ink.colour('--ink'),
                    fontWeight: 700,
                    position: 'right',
                    backgroundColor: ink.colour('--deep'),
                    padding: [1, 4],
                    formatter: `at lift ${show(lift, 'mass', 'ceil')}`,
                  },
                },
                ...(landing === null
                  ? []
                  : [
                      {
                        type: 'scatter',
                        z: 14,
                        silent: true,
                        symbolSize: 8,
                        data: [[oat, mass(landing)]],
                        itemStyle: { color: ink.colour('--ink') },
                        label: {
                          ...label,
                          show: true,
                          color: ink.colour('--ink'),
                          position: 'right',
                          formatter: `at landing ${show(landing, 'mass')}`,
                        },
                      },
                    ]),
              ]
            : []),
        ],
      };
    };
  }, [curves, units, lift, landing, oat, mtow_kg, twin, show]);

  const rows = curves
    ? curves.oat.map((t, k) => [
        `${t} °C`,
        ...curves.coasts.map((c) => (Number.isNaN(c.kg[k]) ? 'not given' : show(c.kg[k]!, 'mass', 'floor'))),
      ])
    : [];
  return (
    <Chart
      title={twin ? 'One engine out in the hover' : 'Weight in the hover'}
      about={
        twin
          ? 'weight the other engine holds, out of ground effect'
          : 'weight that take-off power holds at this pressure'
      }
      label={
        twin
          ? 'Weights that one engine holds in the hover on each rating, by temperature'
          : 'Weights that can be hovered by temperature'
      }
      draw={draw}
      missing={
        context.type.performance.piston
          ? 'A piston’s hover is read as manifold pressure: see At lift.'
          : 'Unknown: enter the pressure, or paste a report.'
      }
      figures={{ head: ['Outside', ...(curves?.coasts.map((c) => c.name) ?? [])], rows }}
    />
  );
}
