import { known, type WeightCurves, weightCurves } from '@rouse/core/brief';
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
    const low_kg = Math.min(...all, lift ?? Infinity, landing ?? Infinity) * 0.96;
    const high_kg = Math.max(...all, lift ?? 0, mtow_kg) * 1.03;
    return weightOption({ curves, lift, landing, oat, mtow_kg, twin, low_kg, high_kg, mass, show });
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
      missing={
        pa_ft === null
          ? 'Unknown: enter the pressure, or paste a report.'
          : 'Unknown: what a hover takes is not written in this type.'
      }
      figures={{ head: ['Outside', ...(curves?.limits.map((c) => c.name) ?? [])], rows }}
    />
  );
}

/** What is drawn: masses in kg, `mass` and `show` in the unit of the screen. */
interface WeightPicture {
  curves: WeightCurves;
  lift: number | null;
  landing: number | null;
  oat: number | null;
  mtow_kg: number;
  twin: boolean;
  low_kg: number;
  high_kg: number;
  mass: (kg: number) => number;
  show: ReturnType<typeof useUnits>['show'];
}

const weightOption =
  (picture: WeightPicture) =>
  (ink: Ink): object => ({
    grid: { left: 54, right: 14, top: 10, bottom: 26 },
    ...axes(picture, ink),
    series: [...limitBands(picture, ink), ...limitNames(picture, ink), ...aircraftMarks(picture, ink)],
  });

function axes({ curves, low_kg, high_kg, mass, show }: WeightPicture, ink: Ink): object {
  const splitLine = { lineStyle: { color: ink.colour('--grid') } };
  const text = { fontFamily: ink.font, color: ink.colour('--soft') };
  return {
    xAxis: {
      type: 'value',
      min: curves.oat_C[0],
      max: curves.oat_C[curves.oat_C.length - 1],
      axisLabel: { ...text, formatter: (v: number) => show(v, 'temperature'), hideOverlap: true },
      splitLine,
      axisLine: { show: false },
    },
    yAxis: {
      type: 'value',
      min: mass(roundStep(low_kg, 50, 'floor')),
      max: mass(roundStep(high_kg, 50, 'ceil')),
      axisLabel: { ...text, showMinLabel: false, showMaxLabel: false },
      splitLine,
    },
  };
}

/** The usual ground with each limit over it, and the maximum take-off weight. */
function limitBands({ curves, high_kg, mtow_kg, mass }: WeightPicture, ink: Ink): object[] {
  const fills = curves.limits.length === 3 ? ['--band1', '--band2'] : ['--band2'];
  const across = (kg: number): object => ({
    type: 'line',
    symbol: 'none',
    silent: true,
    data: [
      [curves.oat_C[0], mass(kg)],
      [curves.oat_C[curves.oat_C.length - 1], mass(kg)],
    ],
  });
  return [
    {
      ...across(high_kg * 1.1),
      areaStyle: { color: ink.colour('--usual2'), opacity: 1, origin: 'start' },
      lineStyle: { opacity: 0 },
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
    { ...across(mtow_kg), z: 11, lineStyle: { color: ink.colour('--ink'), width: 1.2, type: [1, 3] } },
  ];
}

const labelOf = (ink: Ink) => ({ show: true, fontFamily: ink.font, fontSize: 11.5, color: ink.colour('--limit-ink') });

function limitNames({ curves, twin, high_kg, mass }: WeightPicture, ink: Ink): object[] {
  const words = { type: 'scatter', z: 12, silent: true, symbolSize: 0.1 };
  return [
    ...curves.limits.map((curve, i) => ({
      ...words,
      data: [[curves.oat_C[1], mass(curve.kg[1]!)]],
      label: {
        ...labelOf(ink),
        position: 'bottom',
        align: 'left',
        distance: 7,
        formatter: i === 0 && !twin ? 'hovers anywhere below' : curve.name,
      },
    })),
    {
      ...words,
      data: [[curves.oat_C[curves.oat_C.length - 2], mass(high_kg * 0.985)]],
      label: {
        ...labelOf(ink),
        fontWeight: 700,
        align: 'right',
        position: 'bottom',
        backgroundColor: ink.colour('--limit-fill'),
        padding: [2, 4],
        formatter: twin ? 'comes down' : 'no hover',
      },
    },
  ];
}

/** The aircraft in today's air, from lift to landing. */
function aircraftMarks({ oat, lift, landing, mass, show }: WeightPicture, ink: Ink): object[] {
  if (oat === null || lift === null) return [];
  const label = { ...labelOf(ink), color: ink.colour('--ink'), position: 'right' };
  const atLanding = {
    type: 'scatter',
    z: 14,
    silent: true,
    symbolSize: 8,
    data: [[oat, mass(landing ?? lift)]],
    itemStyle: { color: ink.colour('--ink') },
    label: { ...label, formatter: `at landing ${show(landing ?? lift, 'mass')}` },
  };
  return [
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
        fontWeight: 700,
        backgroundColor: ink.colour('--deep'),
        padding: [1, 4],
        formatter: `at lift ${show(lift, 'mass', 'ceil')}`,
      },
    },
    ...(landing === null ? [] : [atLanding]),
  ];
}
