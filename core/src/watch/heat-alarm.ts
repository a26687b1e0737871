import type { Limit } from '../aircraft/index.ts';
import { FuelFall } from './fuel-fall.ts';
import type { PeakPredictor } from './predictor.ts';
import { SeenFor } from './seen-for.ts';

/** what the air has before it burns; its spread is small beside the rise */
const INLET_C = 40;
/** it must last so long: three frames of a fast unit, one of a slow one */
const LASTS_S = 0.05;
/** without a gauge the fuel must say so for longer */
const FUEL_LASTS_S = 0.3;
/** how far above the band the fuel must carry the gas, where the gas itself has only just passed it */
const FUEL_MARGIN_K = 120;
/** how far above the mildest band the closed-form peak must be, where the fuel does not explain the heat */
const PEAK_MARGIN_K = 110;

/**
 * Stops a start that is going to be hot, by the physics of its own readings: its gas is above the band that is allowed
 * for a few seconds, and either the fuel that burns, or the peak to come, says that it does not turn back. No habit is
 * asked, so a strange day stops nothing.
 * @source docs/physics.md 20.3, with what it misses and what it stops wrongly
 */
export class HeatAlarm {
  private readonly mildest_C: number;
  private readonly short_C: number;
  private over_s = 0;
  private readonly fall = new FuelFall();
  private readonly fuelHot = new SeenFor();
  private called = false;

  /** @param limit the temperature limit of a start; its last band is never to be passed, the one before is short */
  constructor(limit: Limit | undefined) {
    const edges = (limit?.bands ?? []).map((b) => ('above' in b ? b.above : NaN));
    this.mildest_C = edges[0] ?? Infinity;
    this.short_C = edges.at(-2) ?? this.mildest_C;
  }

  reset(): void {
    this.over_s = 0;
    this.fall.reset();
    this.fuelHot.reset();
    this.called = false;
  }

  /** One frame of a start that burns. @param fuel_kg_h NaN when it is not sensed @returns true at the frame that makes the alarm */
  rises(dt_s: number, predictor: PeakPredictor, fuel_kg_h: number): boolean {
    if (this.called) return false;
    this.fall.update(dt_s, fuel_kg_h);
    this.over_s = this.isHot(predictor, fuel_kg_h) ? this.over_s + dt_s : 0;
    this.called = this.over_s >= LASTS_S;
    return this.called;
  }

  private isHot(predictor: PeakPredictor, fuel_kg_h: number): boolean {
    if (!(predictor.gas_C > this.short_C)) return false;
    if (Number.isNaN(fuel_kg_h)) return predictor.peak_C > this.mildest_C;
    if (this.isFuelHot(predictor, fuel_kg_h)) return true;
    // a hand, or a control, that takes the fuel back turns the gas back sooner
    return predictor.peakWhenFuelFalls_C(this.fall.share_per_s) > this.mildest_C + PEAK_MARGIN_K;
  }

  /** The same without the gauge, which is not believed: by the fuel alone. @returns true at the frame that makes the alarm */
  risesByFuel(dt_s: number, predictor: PeakPredictor, fuel_kg_h: number): boolean {
    if (this.called) return false;
    this.called = this.fuelHot.update(dt_s, fuel_kg_h, this.isFuelHot(predictor, fuel_kg_h)) >= FUEL_LASTS_S;
    return this.called;
  }

  private isFuelHot(predictor: PeakPredictor, fuel_kg_h: number): boolean {
    return INLET_C + predictor.carried_K(fuel_kg_h) > this.short_C + FUEL_MARGIN_K;
  }

  /** What is seen: the temperature, how fast it rises, where its gas is already, and what it is going to pass. */
  words(tot_C: number, predictor: PeakPredictor): string {
    const { gas_C, rate_K_s } = predictor;
    return `TOT ${tot_C.toFixed(0)} °C rising ${rate_K_s.toFixed(0)} °C a second, its gas at ${gas_C.toFixed(0)} °C: it is going to pass ${this.short_C.toFixed(0)} °C`;
  }

  /** The same where only the fuel is believed. */
  fuelWords(ng_pct: number, fuel_kg_h: number): string {
    return `${fuel_kg_h.toFixed(0)} kg/h of fuel at ${ng_pct.toFixed(0)} % Ng carry the gas past ${this.short_C.toFixed(0)} °C, whatever the gauge says`;
  }
}
