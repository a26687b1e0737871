import type { TurbineStart } from '../aircraft/index.ts';
import type { PeakPredictor } from './predictor.ts';
import type { DayAir } from './start-day.ts';

const KELVIN = 273.15;
const STANDARD_K = 288.15;
const FT_M = 0.3048;
/** speeds that the type's two figures are given at, % */
const AT_PCT = [30, 55] as const;
/** from here on fuel and air explain the gas within a tenth */
const FROM_PCT = 30;
/** a flame needs so long before it is what its fuel makes it */
const FLAME_S = 0.6;

/** below this share of what its fuel makes it, a temperature reads low; above the other it reads high */
const LOW = 0.84;
const HIGH = 1.4;
const LASTS_S = 1;
const SLOWEST_S = 0.3;
/** in the first seconds only a reading that has not half of it is plainly wrong */
const EARLY_LOW = 0.5;
const EARLY_LASTS_S = 0.5;

/**
 * Whether a temperature can be believed, by what the fuel and the air of this speed and this day make of the gas.
 * @source docs/physics.md 20.5, with the spread over good starts
 */
export class FuelHeat {
  private readonly shares: readonly [number, number] | undefined;
  private low_s = 0;
  private high_s = 0;
  private early_s = 0;
  private lit_s = 0;
  private oat_C = 15;
  /** what a denser or warmer day makes of the same fuel, 1 on a standard day at sea level */
  private thinner = 1;
  private heightKnown = false;
  /** how long fuel has collected before it was lit: so long its heat is more than the flow explains */
  private collected_s = 0;

  constructor(spec: TurbineStart) {
    this.shares = spec.lag.heatOfFuel;
  }

  /** The start begins to burn. @param collected_s how long its fuel has flowed by then, NaN where nobody saw */
  begin(outsideAir_C: number, { pressureAltitude_ft }: DayAir, collected_s: number): void {
    this.collected_s = Number.isNaN(collected_s) ? 0 : collected_s;
    this.low_s = 0;
    this.high_s = 0;
    this.early_s = 0;
    this.lit_s = 0;
    this.oat_C = Number.isNaN(outsideAir_C) ? 15 : outsideAir_C;
    this.heightKnown = !Number.isNaN(pressureAltitude_ft);
    const height_m = this.heightKnown ? pressureAltitude_ft * FT_M : 0;
    const pressure = Math.pow(1 - 2.25577e-5 * height_m, 5.25588);
    this.thinner = Math.sqrt((this.oat_C + KELVIN) / STANDARD_K) / pressure;
  }

  /** One frame that burns, with all three readings there. @returns on which side the temperature is wrong, null while it may be right */
  update(dt_s: number, predictor: PeakPredictor, ng_pct: number, fuel_kg_h: number): 'low' | 'high' | null {
    if (!this.shares || !(fuel_kg_h > 1)) return null;
    this.lit_s += dt_s;
    // readings too far apart say too little of the gas behind the gauge
    if (this.lit_s < FLAME_S || dt_s > SLOWEST_S) return null;
    const full_K = predictor.carried_K(fuel_kg_h);
    this.early_s = predictor.gas_C - this.oat_C < EARLY_LOW * full_K ? this.early_s + dt_s : 0;
    if (ng_pct < FROM_PCT) return this.early_s > EARLY_LASTS_S ? 'low' : null;
    const share = this.shares[0] + ((this.shares[1] - this.shares[0]) * (ng_pct - AT_PCT[0])) / (AT_PCT[1] - AT_PCT[0]);
    const ratio = (predictor.gas_C - this.oat_C) / (full_K * share * this.thinner);
    this.low_s = ratio < LOW ? this.low_s + dt_s : 0;
    // in thin air the same fuel makes more heat: without the height a hot reading proves nothing
    const unexplained = this.heightKnown && this.lit_s > this.collected_s && ratio > HIGH;
    this.high_s = unexplained ? this.high_s + dt_s : 0;
    if (this.low_s > LASTS_S) return 'low';
    return this.high_s > LASTS_S ? 'high' : null;
  }
}
