import type { WatchedType } from '../aircraft/index.ts';
import { RatingBooks, type RatingEvent, type RatingNow } from '../ratings/index.ts';
import { SimulatedCockpit } from '../simulator/index.ts';

export type Limiter = 'AUTO' | '2min' | 'cont' | 'override';

export interface PracticeStart {
  mass_kg: number;
  oat_C: number;
  pa_m: number;
  height_m: number;
}

/** One moment of a practice flight. */
export interface PracticeNow {
  t_s: number;
  height_m: number;
  climb_mps: number;
  nr_pct: number;
  collective: number;
  torque_pct: [number, number];
  /** what holds each engine back, as its control names it */
  limitedBy: [string, string];
  training: boolean;
  limiter: Limiter;
  /** engine that was failed, null for none */
  failed: number | null;
  failedAt_s: number | null;
  handFlown: boolean;
  nrLeast_pct: number;
  heightLost_m: number;
  ratings: RatingNow[];
  /** how it ended, null while it flies */
  ended: 'landed' | 'hard' | null;
}

/** A touch down faster than this would have bent something, m/s. */
const HARD_mps = 2.5;
const FIRST_COLLECTIVE = 0.5;
const ON_GROUND_m = 0.05;
/** The hover settles before anything can be failed, s. */
const SETTLE_S = 25;

/**
 * A hover on one or both engines, flown by a person: the equations of the type with its noise, its limiter and its rating
 * ledgers. Until a hand takes the collective, a test pilot holds the height. It is practice only and keeps no record.
 */
export class OneEnginePractice {
  private readonly cockpit: SimulatedCockpit;
  private readonly books: RatingBooks;
  private readonly type: WatchedType;
  private collective = FIRST_COLLECTIVE;
  private training = false;
  private limiter: Limiter = 'AUTO';
  private failed: number | null = null;
  private failedAt_s: number | null = null;
  private failedHeight_m = NaN;
  private handFlown = false;
  private nrLeast = Infinity;
  private lowest_m = Infinity;
  private ended: PracticeNow['ended'] = null;
  /** the last frame, in the order of the type's channels */
  frame: Float64Array;

  constructor(
    type: WatchedType,
    start: PracticeStart,
    seed: number,
    onRating: (event: RatingEvent) => void = () => {},
  ) {
    this.type = type;
    this.cockpit = new SimulatedCockpit(
      type,
      {
        env: { oat_c: start.oat_C, pa_m: start.pa_m },
        mass_kg: start.mass_kg,
        height_m: start.height_m,
        running: { coll: FIRST_COLLECTIVE },
        noise: true,
      },
      [],
      seed,
    );
    this.books = new RatingBooks(type, null, onRating);
    const set = (control: string, to: number | string): void => this.cockpit.move({ control, to });
    for (const [control, to] of [['battery', 1], ['boost', 1], ['flight', 1], ['h_ref', start.height_m], ['coll_mode', 'hover_nr']] as const) set(control, to); // oxfmt-ignore
    for (const { id } of type.engines) {
      set(`e${id}.mode`, 'FLY');
      set(`e${id}.gen`, 1);
    }
    for (const load of ['base_bus', 'displays']) set(`load.${load}`, 1);
    this.frame = this.cockpit.tick();
    for (let i = 0; i < SETTLE_S * 50; i++) this.frame = this.cockpit.tick();
    this.collective = this.signal('coll');
  }

  /** A hand takes the collective, 0 to 1; from then on nobody else holds the height. */
  setCollective(to: number): void {
    this.collective = Math.max(0, Math.min(1, to));
    if (!this.handFlown) this.cockpit.move({ control: 'coll_mode', to: 'manual' });
    this.handFlown = true;
    this.cockpit.move({ control: 'coll', to: this.collective });
  }

  /** A step of the hand, up or down from where the collective is. */
  moveCollective(by: number): void {
    this.setCollective(this.collective + by);
  }

  /** Gives the collective back to the test pilot, who holds the present height and the rotor. */
  handBack(): void {
    this.handFlown = false;
    this.cockpit.move({ control: 'h_ref', to: this.signal('h') });
    this.cockpit.move({ control: 'coll_mode', to: 'hover_nr' });
  }

  /** Both engines share what one could give: the rotor droops as it would, and nothing is used up. */
  setTraining(on: boolean): void {
    this.training = on;
    this.cockpit.move({ control: 'training', to: on ? 1 : 0 });
  }

  setLimiter(limiter: Limiter): void {
    this.limiter = limiter;
    this.cockpit.move({ control: 'rating', to: limiter });
  }

  /** Fuel of one engine is gone, at this moment. */
  fail(engine: number): void {
    if (this.failed !== null) return;
    this.failed = engine;
    this.failedAt_s = this.t_s;
    this.failedHeight_m = this.signal('h');
    this.cockpit.move({ control: `fault.e${engine}.fuel_cut`, to: 1 });
  }

  /** since the hover had settled, s */
  get t_s(): number {
    return this.cockpit.t_s - SETTLE_S - 0.02;
  }

  /** One control period of 20 ms. @returns false once it is on the ground */
  tick(): boolean {
    if (this.ended) return false;
    const sink_mps = -this.signal('vz');
    this.frame = this.cockpit.tick();
    this.books.step(this.t_s, this.frame);
    const h = this.signal('h');
    if (!this.handFlown) this.collective = this.signal('coll');
    this.nrLeast = Math.min(this.nrLeast, this.signal('nr'));
    this.lowest_m = Math.min(this.lowest_m, h);
    if (h <= ON_GROUND_m) this.ended = sink_mps > HARD_mps ? 'hard' : 'landed';
    return this.ended === null;
  }

  now(): PracticeNow {
    const of = (signal: string): [number, number] => [this.signal(`e1.${signal}`), this.signal(`e2.${signal}`)];
    const lim = (e: number): string => String(this.cockpit.simulation.signal(`e${e}.lim`) ?? '');
    const from_m = Number.isNaN(this.failedHeight_m) ? this.signal('h') : this.failedHeight_m;
    return {
      t_s: this.t_s,
      height_m: this.signal('h'),
      climb_mps: this.signal('vz'),
      nr_pct: this.signal('nr'),
      collective: this.collective,
      torque_pct: of('tq'),
      limitedBy: [lim(1), lim(2)],
      training: this.training,
      limiter: this.limiter,
      failed: this.failed,
      failedAt_s: this.failedAt_s,
      handFlown: this.handFlown,
      nrLeast_pct: this.nrLeast,
      heightLost_m: Math.max(0, from_m - this.lowest_m),
      ratings: this.books.now().filter((r) => this.type.engines.length > 1 || r.ledger === 'take-off'),
      ended: this.ended,
    };
  }

  private signal(name: string): number {
    return Number(this.cockpit.simulation.signal(name));
  }
}
