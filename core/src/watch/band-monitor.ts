/** Which way is worse, how far a reading must come back, and the bands from mild to severe. */
export interface BandTable {
  direction: 'high' | 'low';
  hysteresis: number;
  bands: readonly BandRule[];
}

interface BandRule {
  id: string;
  limit: number;
  inclusive?: boolean | undefined;
  mode: 'continuous' | 'cumulative';
  /** time permitted inside; 0 is never */
  allow_s: number;
}

/** One stay in one band. Times are run clock, not rounded. */
export interface Excursion {
  band: string;
  start_s: number;
  end_s: number;
  open: boolean;
  closedByPhase: boolean;
  duration_s: number;
  peak: number;
  peakAt_s: number;
  /** ∫ max(0, beyond the limit) dt */
  area: number;
  estimated_s: number;
  expiredAt_s: number | null;
}

type BandEventType = 'ENTER' | 'EXIT' | 'EXPIRED';
export type BandListener = (type: BandEventType, band: BandRule, t_s: number, excursion: Excursion) => void;

const EPSILON_S = 1e-9;

class BandState {
  readonly rule: BandRule;
  /** limit and return edge with the sign turned so that more is worse */
  readonly limit: number;
  readonly back: number;
  used_s = 0;
  excursion: Excursion | null = null;
  expiresAt_s = Infinity;

  constructor(rule: BandRule, sign: number, hysteresis: number) {
    this.rule = rule;
    this.limit = sign * rule.limit;
    this.back = this.limit - hysteresis;
  }

  entersAt(v: number): boolean {
    return this.rule.inclusive ? v >= this.limit : v > this.limit;
  }

  leavesAt(v: number): boolean {
    return this.rule.inclusive ? v < this.back : v <= this.back;
  }
}

/**
 * Time in bands of one channel, piecewise linear between samples, each band with a timer of its own
 * (docs/physics.md, limit monitor). Feed it with `start`, then `line` or `hold`; it calls the listener at each edge.
 */
export class BandMonitor {
  readonly table: BandTable;
  t_s = NaN;
  /** A reading strictly on the safe side of this, with no band open, cannot change anything. */
  quiet: number;
  private readonly sign: number;
  private readonly bands: BandState[];
  private readonly listener: BandListener;
  private v = NaN;
  private open = 0;

  constructor(table: BandTable, listener: BandListener) {
    this.table = table;
    this.sign = table.direction === 'high' ? 1 : -1;
    this.bands = table.bands.map((rule) => new BandState(rule, this.sign, table.hysteresis));
    this.listener = listener;
    this.quiet = NaN;
    this.refreshQuiet();
  }

  get started(): boolean {
    return !Number.isNaN(this.t_s);
  }

  get active(): boolean {
    return this.open > 0;
  }

  /** The value that is held or was last given, with its own sign. */
  get value(): number {
    return this.sign * this.v;
  }

  /** Between these readings, and until that time, no band is entered, left or used up. */
  steady(): { low: number; high: number; until_s: number } {
    let nearest = -Infinity;
    let next = Infinity;
    let until_s = Infinity;
    for (const band of this.bands) {
      if (!band.excursion) next = Math.min(next, band.limit);
      else {
        nearest = Math.max(nearest, band.back);
        if (band.excursion.expiredAt_s === null) until_s = Math.min(until_s, band.expiresAt_s);
      }
    }
    return this.sign > 0 ? { low: nearest, high: next, until_s } : { low: -next, high: -nearest, until_s };
  }

  start(t_s: number, value: number): void {
    this.t_s = t_s;
    this.v = this.sign * value;
    for (const band of this.bands) if (band.entersAt(this.v)) this.enter(band, t_s, this.v);
  }

  /** Notes a sample that changes nothing: the caller has found it, and all since the last one, on the safe side of `quiet`. */
  pass(t_s: number, value: number): void {
    this.t_s = t_s;
    this.v = this.sign * value;
  }

  /** Goes in a straight line from the last value to this one. */
  line(t_s: number, value: number): void {
    const v = this.sign * value;
    for (const band of this.bands) this.follow(band, this.t_s, this.v, t_s, v, 0);
    this.t_s = t_s;
    this.v = v;
  }

  /** Jumps to `value` at the present time. */
  jump(value: number): void {
    const v = this.sign * value;
    const t_s = this.t_s;
    for (let i = this.bands.length - 1; i >= 0; i--) {
      const band = this.bands[i]!;
      if (band.excursion && band.leavesAt(v)) this.leave(band, t_s, false);
    }
    for (const band of this.bands) {
      if (!band.excursion && band.entersAt(v)) this.enter(band, t_s, v);
      else if (band.excursion) this.peak(band, t_s, v);
    }
    this.v = v;
  }

  /** Holds the present value over a time without data. */
  hold(t_s: number): void {
    for (const band of this.bands) this.follow(band, this.t_s, this.v, t_s, this.v, t_s - this.t_s);
    this.t_s = t_s;
  }

  worse(a: number, b: number): number {
    return this.sign * Math.max(this.sign * a, this.sign * b);
  }

  /** Ends every open excursion, by the end of a phase, and forgets the last value. */
  close(t_s: number): void {
    for (let i = this.bands.length - 1; i >= 0; i--) {
      const band = this.bands[i]!;
      if (band.excursion) this.leave(band, t_s, true);
    }
    this.t_s = NaN;
    this.v = NaN;
  }

  /** Stays that are still open, brought up to the present time. */
  openExcursions(): Excursion[] {
    return this.bands.flatMap((b) => (b.excursion ? [b.excursion] : []));
  }

  usage(id: string): { used_s: number | null; remaining_s: number } {
    const band = this.bands.find((b) => b.rule.id === id);
    if (!band) throw new RangeError(`there is no band named ${id}`);
    const running = band.excursion?.duration_s ?? 0;
    if (band.rule.mode === 'continuous') return { used_s: null, remaining_s: Math.max(0, band.rule.allow_s - running) };
    const used = band.used_s + running;
    return { used_s: used, remaining_s: Math.max(0, band.rule.allow_s - used) };
  }

  private refreshQuiet(): void {
    const edge = this.open > 0 ? -Infinity : this.bands[0]!.limit;
    this.quiet = this.sign * edge;
  }

  private follow(band: BandState, t0: number, a: number, t1: number, b: number, estimated_s: number): void {
    if (!band.excursion) {
      if (!band.entersAt(b)) return;
      const t = a >= band.limit ? t0 : t0 + ((band.limit - a) / (b - a)) * (t1 - t0);
      this.enter(band, t, Math.max(a, band.limit));
      this.accumulate(band, t, Math.max(a, band.limit), t1, b, estimated_s);
      return;
    }
    if (!band.leavesAt(b)) {
      this.accumulate(band, t0, a, t1, b, estimated_s);
      return;
    }
    const t = a <= band.back ? t0 : t0 + ((a - band.back) / (a - b)) * (t1 - t0);
    this.accumulate(band, t0, a, t, Math.min(a, band.back), 0);
    this.leave(band, t, false);
  }

  private accumulate(band: BandState, t0: number, a: number, t1: number, b: number, estimated_s: number): void {
    const excursion = band.excursion!;
    const dt = t1 - t0;
    const x = a - band.limit;
    const y = b - band.limit;
    if (x >= 0 && y >= 0) excursion.area += ((x + y) / 2) * dt;
    else if (x > 0 || y > 0) {
      const top = Math.max(x, y);
      excursion.area += ((top / 2) * dt * top) / (top - Math.min(x, y));
    }
    this.peak(band, t0, a);
    this.peak(band, t1, b);
    excursion.end_s = t1;
    excursion.duration_s = t1 - excursion.start_s;
    excursion.estimated_s += estimated_s;
    if (excursion.expiredAt_s === null && t1 > band.expiresAt_s + EPSILON_S) this.expire(band, band.expiresAt_s);
  }

  private peak(band: BandState, t_s: number, v: number): void {
    const excursion = band.excursion!;
    if (v > this.sign * excursion.peak) {
      excursion.peak = this.sign * v;
      excursion.peakAt_s = t_s;
    }
  }

  private enter(band: BandState, t_s: number, v: number): void {
    const left = band.rule.mode === 'cumulative' ? band.rule.allow_s - band.used_s : band.rule.allow_s;
    band.excursion = {
      band: band.rule.id,
      start_s: t_s,
      end_s: t_s,
      open: true,
      closedByPhase: false,
      duration_s: 0,
      peak: this.sign * v,
      peakAt_s: t_s,
      area: 0,
      estimated_s: 0,
      expiredAt_s: null,
    };
    band.expiresAt_s = t_s + left;
    this.open++;
    this.refreshQuiet();
    this.listener('ENTER', band.rule, t_s, band.excursion);
    if (left <= EPSILON_S) this.expire(band, t_s);
  }

  private expire(band: BandState, t_s: number): void {
    band.excursion!.expiredAt_s = t_s;
    this.listener('EXPIRED', band.rule, t_s, band.excursion!);
  }

  private leave(band: BandState, t_s: number, byPhase: boolean): void {
    const excursion = band.excursion!;
    excursion.end_s = t_s;
    excursion.duration_s = t_s - excursion.start_s;
    excursion.open = false;
    excursion.closedByPhase = byPhase;
    band.used_s += excursion.duration_s;
    band.excursion = null;
    this.open--;
    this.refreshQuiet();
    this.listener('EXIT', band.rule, t_s, excursion);
  }
}
