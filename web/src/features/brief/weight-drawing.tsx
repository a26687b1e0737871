import { known, weightCurves } from '@rouse/core/brief';
import { roundStep } from '@rouse/core/quantity';
import { useMemo } from 'react';
import { Chart, type Ink } from '../../charts/chart.tsx';
import { figureIn } from '../../ui/figures.ts';
import { useUnits } from '../../ui/units.ts';
import type { BriefDesk } from './desk.ts';

/** Twins: the weight that one engine holds. Singles: the weight that can be hovered. The aircraft stands below them. */
export function WeightDrawing({ desk }: { desk: BriefDesk }) {
  const { units, show } = useUnits();
  const { context, input, brief } = desk;
  const twin = context.type.engines.length > 1;
  const pa_ft = known(brief.pressureAltitude_ft);
  const curves = useMemo(
    () => (pa_ft === null ? null : weightCurves(context.type, pa_ft, input.oat_C, input.bleed)),
    [context.type, pa_ft, input.oat_C, input.bleed],
  );
  const lift = known(brief.liftMass_kg);
  const landing = known(brief.landing)?.ramp.mass_kg ?? null;
  const oat = input.oat_C;
  const { mtow_kg } = context.type.loading;

  const draw = useMemo(() => {
    if (!curves) return null;
    const mass = (kg: number): number => figureIn(kg, 'mass', units);
    const all = curves.limits.flatMap((c) => c.kg).filter((v) => !Number.isNaN(v));
    const low = Math.min(...all, lift ?? Infinity, landing ?? Infinity) * 0.96;
    const high = Math.max(...all, lift ?? 0, mtow_kg) * 1.03;
    return (ink: Ink): object => {
      const fills = curves.limits.length === 3 ? ['--band1', '--band2'] : ['--band2'];
      const label = { fontFamily: ink.font, fontSize: 11.5, color: ink.colour('--limit-ink') };
      return {
        grid: { left: 54, right: 14, top: 10, bottom: 26 },
        xAxis: {
          type: 'value',
          min: curves.oat_C[0],
          max: curves.oat_C[curves.oat_C.length - 1],
          axisLabel: {
            fontFamily: ink.font,
            color: ink.colour('--soft'),
            formatter: (v: number) => show(v, 'temperature'),
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
              [curves.oat_C[0], mass(high * 1.1)],
              [curves.oat_C[curves.oat_C.length - 1], mass(high * 1.1)],
            ],
            areaStyle: { color: ink.colour('--usual2'), opacity: 1, origin: 'start' },
            lineStyle: { opacity: 0 },
            symbol: 'none',
            silent: true,
            z: 1,
          },
          ...curves.limits.map((curve, i) => ({
            type: 'line',
            symbol: 'none',
            silent: true,
            z: 2 + i,
            data: curves.oat_C.map((t, k) => [t, Number.isNaN(curve.kg[k]) ? null : mass(curve.kg[k]!)]),
            areaStyle: {
              origin: 'end',
              opacity: 1,
              color: curve.hard ? ink.limitFill : ink.colour(fills[i] ?? '--band2'),
            },
            lineStyle: {
              color: ink.colour('--limit-edge'),
              width: curve.hard ? 2 : 1.4,
              type: curve.hard ? 'solid' : i === 0 ? [2, 4] : [7, 4],
            },
          })),
          ...curves.limits.map((curve, i) => ({
            type: 'scatter',
            z: 12,
            silent: true,
            symbolSize: 0.1,
            data: [[curves.oat_C[1], mass(curve.kg[1]!)]],
            label: {
              ...label,
              show: true,
              position: 'bottom',
              align: 'left',
              distance: 7,
              formatter: i === 0 && !twin ? 'hovers anywhere below' : curve.name,
            },
          })),
          {
            type: 'scatter',
            z: 12,
            silent: true,
            symbolSize: 0.1,
            data: [[curves.oat_C[curves.oat_C.length - 2], mass(high * 0.985)]],
            label: {
              ...label,
              show: true,
              fontWeight: 700,
              align: 'right',
              position: 'bottom',
              backgroundColor: ink.colour('--limit-fill'),
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
              [curves.oat_C[0], mass(mtow_kg)],
              [curves.oat_C[curves.oat_C.length - 1], mass(mtow_kg)],
            ],
            lineStyle: { color: ink.colour('--ink'), width: 1.2, type: [1, 3] },
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
    ? curves.oat_C.map((t, k) => [
        show(t, 'temperature'),
        ...curves.limits.map((c) => (Number.isNaN(c.kg[k]) ? 'not given' : show(c.kg[k]!, 'mass', 'floor'))),
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
      missing="Unknown: enter the pressure, or paste a report."
      figures={{ head: ['Outside', ...(curves?.limits.map((c) => c.name) ?? [])], rows }}
    />
  );
}
