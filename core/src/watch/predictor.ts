import type { StartWatch } from '../aircraft/index.ts';

/**
 * Early warning from indicated speed and temperature: lag-corrected gas temperature and closed-form peak.
 * @source docs/physics.md, early hot-start warning
 */
export class PeakPredictor {
  /** filtered indication, °C */
  Tf_C = NaN;
  /** lag-corrected gas temperature, °C */
  gas_C = NaN;
  /** where a first-order lag would peak if nothing changed; a forecast with a wide spread, °C */
  peak_C = NaN;
  /** seconds until that peak, 0 when the indication falls */
  peakIn_s = 0;
  private Td = 0;
  private Nd = 0;
  private lastT_C = NaN;
  private lastN = NaN;
  private baseline_C = NaN;
  private readonly lag: StartWatch['lag'];

  constructor(lag: StartWatch['lag']) {
    this.lag = lag;
  }

  reset(): void {
    this.Tf_C = NaN;
    this.gas_C = NaN;
    this.peak_C = NaN;
    this.peakIn_s = 0;
    this.Td = 0;
    this.Nd = 0;
    this.lastT_C = NaN;
    this.lastN = NaN;
    this.baseline_C = NaN;
  }

  get rate_K_s(): number {
    return this.Td;
  }

  get speedRate_pct_s(): number {
    return this.Nd;
  }

  /** One sample. NaN in either reading leaves the estimates as they are. */
  update(dt_s: number, ng_pct: number, tot_C: number): void {
    if (Number.isNaN(ng_pct) || Number.isNaN(tot_C)) return;
    if (Number.isNaN(this.lastT_C)) {
      this.Tf_C = tot_C;
      this.gas_C = tot_C;
      this.peak_C = tot_C;
      this.baseline_C = Math.min(tot_C, 80);
    } else {
      this.Tf_C += (dt_s / (dt_s + 0.06)) * (tot_C - this.Tf_C);
      this.Td += (dt_s / (dt_s + 0.12)) * ((tot_C - this.lastT_C) / dt_s - this.Td);
      if (ng_pct < 2) this.Nd = 0;
      else this.Nd += (dt_s / (dt_s + 0.25)) * ((ng_pct - this.lastN) / dt_s - this.Nd);
      const n = ng_pct < 5 ? 0.05 : ng_pct > 110 ? 1.1 : ng_pct / 100;
      const flow = n * (this.lag.flowA0 + (1 - this.lag.flowA0) * n * n);
      const tau = this.lag.tauRef_s * Math.min(1 / Math.sqrt(flow), this.lag.tauRatioMax);
      this.gas_C = this.Tf_C + tau * this.Td;
      if (this.Td > 0) {
        const fall = Math.max(
          1,
          ((this.gas_C - this.baseline_C) * 1.3 * Math.max(this.Nd, 0.05)) / Math.max(ng_pct, 5),
        );
        this.peakIn_s = tau * Math.log(1 + this.Td / fall);
        this.peak_C = this.gas_C - fall * this.peakIn_s;
      } else {
        this.peakIn_s = 0;
        this.peak_C = this.Tf_C;
      }
    }
    this.lastT_C = tot_C;
    this.lastN = ng_pct;
  }
}
