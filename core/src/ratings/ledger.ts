import { Refused } from '../quantity/index.ts';
import { BandMonitor, type Excursion } from '../watch/index.ts';
import { RatingAccount } from './account.ts';
import type { LedgerConfig, LedgerListener, OverMaximum, RatingBalance } from './model.ts';

/**
 * Books the use of ratings from a power that goes in straight lines between samples: exact at every crossing, and
 * the same code for a record that is read back and for an engine that runs now.
 * Feed it with `start`, then `line`; `gap` where samples are missing. @source docs/calculations.md, rating ledger
 */
export class RatingLedger {
  readonly config: LedgerConfig;
  /** time without samples in which no rating was in use: what happened then is not known */
  blindGap_s = 0;
  private readonly accounts: RatingAccount[];
  private readonly listener: LedgerListener;
  private readonly ceiling: BandMonitor;
  private readonly overs: Excursion[] = [];
  private t_s = NaN;
  private v = NaN;
  private held = false;

  /** @throws Refused BAD_CONFIG when thresholds do not rise */
  constructor(config: LedgerConfig, listener: LedgerListener = () => {}) {
    const { ratings } = config;
    checkConfig(config);
    this.config = config;
    this.listener = listener;
    this.accounts = ratings.map((rating) => new RatingAccount(rating, config, listener));
    this.ceiling = new BandMonitor(
      {
        direction: 'high',
        hysteresis: config.hysteresis,
        bands: [{ id: 'over', limit: config.absolute_max, mode: 'continuous', allow_s: Infinity }],
      },
      (type, _band, t, excursion) => {
        if (type !== 'ENTER') return;
        this.overs.push(excursion);
        listener('OVER_MAXIMUM', t, null);
      },
    );
  }

  get started(): boolean {
    return !Number.isNaN(this.t_s);
  }

  /** The highest rating that is in use now, null for none. */
  get inUse(): string | null {
    for (let i = this.accounts.length - 1; i >= 0; i--)
      if (this.accounts[i]!.inside) return this.accounts[i]!.rating.id;
    return null;
  }

  start(t_s: number, value: number): void {
    this.t_s = t_s;
    this.v = value;
    for (const account of this.accounts) if (value > account.rating.lower) account.enter(t_s, true);
    this.ceiling.start(t_s, value);
  }

  /** Goes in a straight line to the next sample; a gap before it ends first. */
  line(t_s: number, value: number): void {
    this.endGap();
    const { v: a, t_s: t0 } = this;
    const { hysteresis } = this.config;
    const at = (level: number): number => t0 + ((level - a) / (value - a)) * (t_s - t0);
    if (value > a)
      for (const account of this.accounts) {
        const { lower } = account.rating;
        if (!account.inside && value > lower) this.turn(account, a >= lower ? t0 : at(lower), true);
      }
    else
      for (let i = this.accounts.length - 1; i >= 0; i--) {
        const account = this.accounts[i]!;
        const back = account.rating.lower - hysteresis;
        if (account.inside && value <= back) this.turn(account, a <= back ? t0 : at(back), false);
      }
    this.book(t_s, false);
    this.ceiling.line(t_s, value);
    this.v = value;
  }

  /** Samples are missing until `t_s`, where the power is `value`: the higher of both sides is held over the gap. */
  gap(t_s: number, value: number): void {
    const from_s = this.t_s;
    this.jump(Math.max(this.v, value));
    const active = this.inUse !== null;
    if (!active) this.blindGap_s += t_s - from_s;
    this.listener(active ? 'GAP_ESTIMATED' : 'GAP_BLIND', from_s, null);
    this.book(t_s, true);
    this.ceiling.hold(t_s);
    this.held = true;
    this.afterGap = value;
  }

  /** The value at the end of a gap, taken when a normal segment follows or the record ends. */
  private afterGap = NaN;

  private endGap(): void {
    if (!this.held) return;
    this.held = false;
    this.jump(this.afterGap);
  }

  private jump(value: number): void {
    const back = value + this.config.hysteresis;
    for (let i = this.accounts.length - 1; i >= 0; i--) {
      const account = this.accounts[i]!;
      if (account.inside && back <= account.rating.lower) account.leave(this.t_s);
    }
    for (const account of this.accounts)
      if (!account.inside && value > account.rating.lower) account.enter(this.t_s, false);
    this.ceiling.jump(value);
    this.v = value;
  }

  private turn(account: RatingAccount, t_s: number, into: boolean): void {
    this.book(t_s, false);
    if (into) account.enter(t_s, false);
    else account.leave(t_s);
  }

  /** Books the time until `t_s` to every rating that runs. */
  private book(t_s: number, estimated: boolean): void {
    const dt = t_s - this.t_s;
    if (dt > 0)
      for (let i = 0; i < this.accounts.length; i++) {
        const account = this.accounts[i]!;
        const suspended = !this.config.higher_counts_in_lower && (this.accounts[i + 1]?.inside ?? false);
        if (account.inside) account.run(this.t_s, suspended ? 0 : dt, t_s, estimated);
        else account.rearm(t_s);
      }
    this.t_s = t_s;
  }

  /** Ends a gap that the record ends with, then the balance of every rating. */
  close(): void {
    this.endGap();
    for (const account of this.accounts) account.settle();
  }

  /** Power above the maximum, each excursion with its peak and area. */
  overMaximum(): OverMaximum[] {
    return this.overs.map((s) => ({
      start: s.start_s,
      end: s.end_s,
      open: s.open,
      duration_s: s.duration_s,
      peak: s.peak,
      peak_t: s.peakAt_s,
      area: s.area,
    }));
  }

  balances(): RatingBalance[] {
    return this.accounts.map((account) => account.balance());
  }

  /** As soon as a rating that costs an inspection was used at all, or the maximum was passed; never taken back. */
  get maintenanceRequired(): boolean {
    return this.overs.length > 0 || this.accounts.some((a) => a.balance().maintenance_required);
  }
}

/** @throws Refused BAD_CONFIG for thresholds that do not rise, and figures that are none */
function checkConfig(config: LedgerConfig): void {
  const bad = (field: string): never => {
    throw new Refused('BAD_CONFIG', field);
  };
  const { ratings } = config;
  if (!Array.isArray(ratings) || ratings.length === 0) bad('ratings');
  ratings.forEach((r, i) => {
    if (!Number.isFinite(r?.lower) || !(r.period_s > 0)) bad(`ratings.${i}`);
    if (i > 0 && !(r.lower > ratings[i - 1]!.lower)) bad(`ratings.${i}.lower`);
  });
  if (!(config.absolute_max > ratings.at(-1)!.lower)) bad('absolute_max');
  for (const field of ['hysteresis', 'rearm_s', 'max_gap_s'] as const) if (!(config[field] >= 0)) bad(field);
}
