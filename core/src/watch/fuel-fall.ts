/** lags of the flow and of its rate, s: a gauge is noisy, a hand is not that quick */
const FLOW_LAG_S = 0.1;
const RATE_LAG_S = 0.2;
/** less than this is no flow to take a share of, kg/h */
const LEAST_KG_H = 1;

/** How fast the fuel is taken back, by its own gauge. */
export class FuelFall {
  private flow_kg_h = NaN;
  private rate_kg_h_s = 0;
  /** since the last frame that had it */
  private unseen_s = 0;

  reset(): void {
    this.flow_kg_h = NaN;
    this.rate_kg_h_s = 0;
    this.unseen_s = 0;
  }

  /** One frame. NaN leaves it as it is. */
  update(frame_s: number, fuel_kg_h: number): void {
    const dt_s = frame_s + this.unseen_s;
    this.unseen_s = Number.isNaN(fuel_kg_h) ? dt_s : 0;
    if (Number.isNaN(fuel_kg_h) || !(dt_s > 0)) return;
    if (Number.isNaN(this.flow_kg_h)) this.flow_kg_h = fuel_kg_h;
    const before_kg_h = this.flow_kg_h;
    this.flow_kg_h += (dt_s / (dt_s + FLOW_LAG_S)) * (fuel_kg_h - before_kg_h);
    const rate_kg_h_s = (this.flow_kg_h - before_kg_h) / dt_s;
    this.rate_kg_h_s += (dt_s / (dt_s + RATE_LAG_S)) * (rate_kg_h_s - this.rate_kg_h_s);
  }

  /** share of the flow that is taken away in a second, 0 while it does not fall */
  get share_per_s(): number {
    return this.rate_kg_h_s < 0 ? -this.rate_kg_h_s / Math.max(LEAST_KG_H, this.flow_kg_h) : 0;
  }
}
