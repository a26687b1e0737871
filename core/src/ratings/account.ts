import type { LedgerConfig, LedgerListener, LedgerRating, Period, RatingBalance } from './model.ts';

const EPSILON_S = 1e-9;

/** The uses of one rating. The ledger says when the power goes in and out, and what time is its own. */
export class RatingAccount {
  readonly rating: LedgerRating;
  inside = false;
  private readonly config: LedgerConfig;
  private readonly listener: LedgerListener;
  private readonly periods: Period[] = [];
  private current: Period | null = null;
  private announced = false;

  constructor(rating: LedgerRating, config: LedgerConfig, listener: LedgerListener) {
    this.rating = rating;
    this.config = config;
    this.listener = listener;
  }

  enter(t_s: number, beforeRecord: boolean): void {
    this.inside = true;
    const last = this.current;
    if (last && t_s - last.end < this.config.rearm_s) {
      last.merged++;
      last.open = true;
      this.add(last, t_s - last.end, t_s, true);
      last.end = t_s;
      return;
    }
    this.settle();
    this.announced = false;
    this.current = {
      start: t_s,
      end: t_s,
      open: true,
      started_before_record: beforeRecord,
      booked_s: 0,
      measured_s: 0,
      estimated_s: 0,
      merged: 0,
      charged: 0,
      expired_at: null,
    };
  }

  /** Time goes on inside; `own_s` of it is this rating's own. */
  run(from_s: number, own_s: number, to_s: number, estimated: boolean): void {
    const period = this.current!;
    period.end = to_s;
    if (own_s <= 0) return;
    this.add(period, own_s, from_s + own_s, false);
    if (estimated) period.estimated_s += own_s;
    else period.measured_s += own_s;
    if (!this.announced) {
      this.announced = true;
      this.periods.push(period);
      this.listener('PERIOD_START', period.start, this.rating.id);
    }
    this.charge(period);
  }

  leave(t_s: number): void {
    this.inside = false;
    this.current!.end = t_s;
    this.current!.open = false;
  }

  /** It is `t_s` now: a use that was left long enough ago is over. */
  rearm(t_s: number): void {
    if (!this.inside && this.current && t_s - this.current.end >= this.config.rearm_s) this.settle();
  }

  /** A use that can no longer be taken up again is over. */
  settle(): void {
    const last = this.current;
    if (!last || last.open || !this.announced) return;
    this.listener('PERIOD_END', last.end, this.rating.id);
    this.announced = false;
    this.current = null;
  }

  balance(): RatingBalance {
    const { id, max_periods, period_s, maintenance } = this.rating;
    const total_booked_s = this.periods.reduce((sum, p) => sum + p.booked_s, 0);
    const charged = this.charged();
    const left = max_periods === null ? null : Math.max(0, max_periods - charged);
    const last = this.periods.at(-1);
    const running = last?.open ? last : null;
    const tooMany = max_periods !== null && charged - (running?.charged ?? 0) >= max_periods;
    return {
      id,
      periods: this.periods,
      total_booked_s,
      periods_charged: charged,
      periods_remaining: left,
      remaining_s: tooMany ? 0 : running ? Math.max(0, period_s - running.booked_s) : left === 0 ? 0 : period_s,
      maintenance_required: maintenance && total_booked_s > 0,
    };
  }

  private charged(): number {
    return this.periods.reduce((sum, p) => sum + p.charged, 0);
  }

  private add(period: Period, dt_s: number, until_s: number, isGap: boolean): void {
    const { period_s, id } = this.rating;
    const before_s = period.booked_s;
    period.booked_s += dt_s;
    if (period.expired_at !== null || period.booked_s <= period_s + EPSILON_S) return;
    period.expired_at = isGap ? until_s : until_s - dt_s + (period_s - before_s);
    this.listener('PERIOD_EXPIRED', period.expired_at, id);
  }

  private charge(period: Period): void {
    const { min_charge_s, period_s, max_periods, id } = this.rating;
    if (period.booked_s < min_charge_s) return;
    const isFirst = period.charged === 0;
    if (isFirst && max_periods !== null && this.charged() >= max_periods)
      this.listener('NO_PERIODS_LEFT', period.start, id);
    period.charged = Math.max(1, Math.ceil(period.booked_s / period_s - EPSILON_S));
  }
}
