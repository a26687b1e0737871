import type { TurbineStart } from '../aircraft/index.ts';

/**
 * Early warning from indicated speed and temperature: lag-corrected gas temperature and closed-form peak.
 * @source docs/physics.md, early hot-start warning
 */
export class PeakPredictor {
  /** filtered indication, °C */
  Tf_C = NaN;
  /** lag-corrected gas temperature, °C */
  gas_C = NaN;
  /** share of the air flow at full speed */
  private flow = NaN;
  private Td = 0;
  private Nd = 0;
  private lastT_C = NaN;
  private lastN = NaN;
  private baseline_C = NaN;
  /** since the last sample that had both readings */
  private unseen_s = 0;
  private tau_s = 0;
  private pace_s = NaN;
  private perSecond = 0;
  private weightT = 0;
  private weightTd = 0;
  private weightNd = 0;
  private readonly lag: TurbineStart['lag'];

  constructor(lag: TurbineStart['lag']) {
    this.lag = lag;
  }

  reset(): void {
    this.Tf_C = NaN;
    this.gas_C = NaN;
    this.Td = 0;
    this.Nd = 0;
    this.lastT_C = NaN;
    this.lastN = NaN;
    this.baseline_C = NaN;
    this.unseen_s = 0;
    this.flow = NaN;
  }

  get rate_K_s(): number {
    return this.Td;
  }

  get speedRate_pct_s(): number {
    return this.Nd;
  }

  /** seconds until a first-order lag would peak if nothing changed, 0 when the indication falls */
  get peakIn_s(): number {
    return this.peakTime_s(this.fall_K_s);
  }

  /** where it would peak; a forecast with a wide spread, °C */
  get peak_C(): number {
    return this.peakFalling_C(this.fall_K_s);
  }

  /** where it would peak while this share of the fuel is taken away in each second, °C */
  peakWhenFuelFalls_C(share_per_s: number): number {
    return this.peakFalling_C(this.fall_K_s + (this.gas_C - this.baseline_C) * share_per_s);
  }

  private peakFalling_C(fall_K_s: number): number {
    return this.Td > 0 ? this.gas_C - fall_K_s * this.peakTime_s(fall_K_s) : this.Tf_C;
  }

  private peakTime_s(fall_K_s: number): number {
    return this.Td > 0 ? this.tau_s * Math.log(1 + this.Td / fall_K_s) : 0;
  }

  /** how far this fuel lifts the gas in the air that flows now, K */
  carried_K(fuel_kg_h: number): number {
    return (this.lag.fuelRise_K * fuel_kg_h) / this.flow;
  }

  /** how fast the gas cools because the air flow grows with speed */
  private get fall_K_s(): number {
    return Math.max(1, ((this.gas_C - this.baseline_C) * 1.3 * Math.max(this.Nd, 0.05)) / Math.max(this.lastN, 5));
  }

  private setPace(dt_s: number): void {
    this.pace_s = dt_s;
    this.perSecond = 1 / dt_s;
    this.weightT = dt_s / (dt_s + 0.06);
    this.weightTd = dt_s / (dt_s + 0.12);
    this.weightNd = dt_s / (dt_s + 0.25);
  }

  /** One sample. NaN in either reading leaves the estimates as they are. */
  update(frame_s: number, ng_pct: number, tot_C: number): void {
    if (Number.isNaN(ng_pct) || Number.isNaN(tot_C)) {
      this.unseen_s += frame_s;
      return;
    }
    const dt_s = frame_s + this.unseen_s;
    this.unseen_s = 0;
    if (Number.isNaN(this.lastT_C)) {
      this.Tf_C = tot_C;
      this.gas_C = tot_C;
      this.baseline_C = Math.min(tot_C, 80);
    } else {
      // a unit sends at an even pace: the weights of its filters are worked out once
      if (!(Math.abs(dt_s - this.pace_s) < 1e-9)) this.setPace(dt_s);
      this.Tf_C += this.weightT * (tot_C - this.Tf_C);
      this.Td += this.weightTd * ((tot_C - this.lastT_C) * this.perSecond - this.Td);
      if (ng_pct < 2) this.Nd = 0;
      else this.Nd += this.weightNd * ((ng_pct - this.lastN) * this.perSecond - this.Nd);
      const n = ng_pct < 5 ? 0.05 : ng_pct > 110 ? 1.1 : ng_pct * 0.01;
      this.flow = n * (this.lag.flowA0 + (1 - this.lag.flowA0) * n * n);
      this.tau_s = this.lag.tauRef_s * Math.min(1 / Math.sqrt(this.flow), this.lag.tauRatioMax);
      this.gas_C = this.Tf_C + this.tau_s * this.Td;
    }
    this.lastT_C = tot_C;
    this.lastN = ng_pct;
  }
}
