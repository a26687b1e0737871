import { type FigureSpec, poweredOf } from '../aircraft/index.ts';
import { assuranceMargin, hoverCheck } from '../power/index.ts';
import { attempt, isRefusal } from '../quantity/index.ts';
import { median } from '../statistics/index.ts';
import type { FigureReading, FigureSource } from './figure-source.ts';

/** A steady reading: as many valid samples as this, s of them at most lost. */
const FEWEST = 10;

type Powered = Extract<FigureSpec, { of: 'hover' | 'assurance' }>;

/** Reads what a steady hover says of weight and engines; null without the air, the weight, or steady readings. */
export function takePowerFigure(spec: Powered, of: FigureSource, at_s: number): FigureReading {
  const from_s = at_s + spec.after_s;
  const to_s = from_s + spec.over_s;
  const none: FigureReading = { value: null, from_s, to_s };
  const aircraft = poweredOf(of.type);
  if (!aircraft || !of.situation || !(to_s <= of.record.last_s + 1e-6)) return none;
  const steady = (channel: string): number => {
    const { values } = of.record.read({ plus: [channel] }, from_s, to_s);
    const known = values.filter((v) => !Number.isNaN(v));
    return known.length >= FEWEST && known.length > (2 / 3) * values.length ? median(known) : NaN;
  };
  const gauge_C = spec.outsideAir === undefined ? NaN : steady(spec.outsideAir);
  const air = { pa_ft: of.situation.pa_ft, oat_C: Number.isNaN(gauge_C) ? of.situation.oat_C : gauge_C };
  const value = spec.of === 'hover' ? hover(spec) : assurance(spec);
  return { value, from_s, to_s, ...(spec.of === 'hover' && { good: goodOf(spec) }) };

  function hover(figure: Extract<Powered, { of: 'hover' }>): number | null {
    const torque_pct = figure.torques.map(steady);
    const { hoverOffset_pct, ...situation } = of.situation!;
    if (torque_pct.some(Number.isNaN)) return null;
    const found = attempt(() =>
      hoverCheck(aircraft!, {
        ...situation,
        ...air,
        torque_pct,
        skid_height_ft: figure.skid_height_ft,
        learned_offset_pct: hoverOffset_pct,
      }),
    );
    if (isRefusal(found) || found.status === 'INVALID') return null;
    const check = found;
    switch (figure.says) {
      case 'difference':
        return check.delta_pct + hoverOffset_pct;
      case 'as-if-heavier':
        return check.effective_mass_kg - situation.mass_kg;
      case 'margin-high':
        return check.margin_oge_pct;
      case 'margin-low':
        return check.margin_ige_pct;
    }
  }

  /** What is usual for this tail moves the band of the difference. */
  function goodOf(figure: Extract<Powered, { of: 'hover' }>): readonly [number, number] | undefined {
    const [low, high] = figure.good;
    const offset = of.situation!.hoverOffset_pct;
    return figure.says === 'difference' && low !== null && high !== null ? [low + offset, high + offset] : undefined;
  }

  function assurance(figure: Extract<Powered, { of: 'assurance' }>): number | null {
    const [torque_pct, tot_C, ng_pct, n2_pct] = [
      steady(figure.torque),
      steady(figure.temperature),
      steady(figure.speed),
      steady(figure.turbine),
    ] as [number, number, number, number];
    const found = attempt(() =>
      assuranceMargin(aircraft!.engine.assurance, { ...air, torque_pct, tot_C, ng_pct, n2_pct }),
    );
    if (isRefusal(found)) return null;
    const margin = found as ReturnType<typeof assuranceMargin>;
    return figure.says === 'temperature' ? margin.tot_margin_C : margin.ng_margin_pct;
  }
}
