import { isPiston, type Item, type StandInAction, type WatchedType } from '../../aircraft/index.ts';
import { procedureOf, reduceRun, type RunState, standInActions } from '../../procedure/index.ts';
import { type Conditions, type PistonConditions, SimulatedCockpit, TICK_S } from '../../simulator/index.ts';
import { airOf, type Deal } from './deal.ts';

/** a hand needs so long for each item on its way to the start */
const HAND_S = 0.3;

type Way = Pick<Deal, 'init' | 'env' | 'faults' | 'seed'>;

/** The item of the list that starts the first engine which drives the rotor. */
export function startItemOf(type: WatchedType): Item {
  const main = new Set(type.startWatches.filter((w) => w.engine !== 0).map((w) => w.id));
  const list = procedureOf(type, reduceRun([]));
  const watch = list.findIndex((i) => i.kind === 'watch' && main.has(i.watch));
  if (watch < 0) throw new RangeError(`${type.id} has no engine start on its list`);
  // where a switch of its own begins the start, it stands before the watch
  const before = list[watch - 1];
  return list[watch]!.standIn ? list[watch]! : before!;
}

/** One start from the first moment of its starter: the aircraft was made ready by a hand that did not look. */
export class DealtStart {
  readonly type: WatchedType;
  private readonly cockpit: SimulatedCockpit;
  private readonly begun_s: number;

  constructor(type: WatchedType, deal: Way) {
    this.type = type;
    const conditions = isPiston(type.simulator)
      ? ({ init: deal.init, env: deal.env } as PistonConditions)
      : ({ ...deal.init, env: deal.env } as Conditions);
    this.cockpit = new SimulatedCockpit(type, conditions, [...deal.faults], deal.seed);
    const start = startItemOf(type);
    this.cockpit.tick();
    const state = { ...reduceRun([]), brief: { oat_C: deal.env[airOf(type)] ?? null } } as unknown as RunState;
    for (const item of procedureOf(type, state)) {
      if (item === start) break;
      const frames = Math.round(this.handsOn(item, state) / TICK_S);
      for (let i = 0; i < frames; i++) this.cockpit.tick();
    }
    this.begun_s = this.cockpit.t_s;
    for (const action of start.standIn ?? []) this.cockpit.move(action);
  }

  /** Since the starter was engaged, s. */
  get t_s(): number {
    return this.cockpit.t_s - this.begun_s;
  }

  /** What a whole probe of the engine that is started shows at this moment, °C; NaN where no temperature is watched. */
  get hot_C(): number {
    return isPiston(this.type.simulator)
      ? NaN
      : Number(this.cockpit.simulation.signal(`e${this.type.engines[0]!.id}.ttc`));
  }

  /** One control period of 20 ms. @returns the frame, in the order of the type's channels; it is the same array each time */
  tick(): Float64Array {
    return this.cockpit.tick();
  }

  /** A hand moves one of the controls. */
  move({ control, to }: Pick<StandInAction, 'control' | 'to'>): void {
    this.cockpit.move({ control, to });
  }

  /** The first action of a stopped start: the fuel goes. */
  stop(): void {
    const plan = this.type.aborts.pilot ?? Object.values(this.type.aborts)[0];
    const engine = this.type.engines[0]!.id;
    const first = plan?.actions.find((a) => a.standIn && (!a.forWatch || a.forWatch.includes(String(engine))));
    for (const action of first?.standIn ?? []) this.cockpit.move(action);
  }

  private handsOn(item: Item, state: RunState): number {
    const actions = standInActions(item, state);
    for (const action of actions) this.cockpit.move(action);
    const longest_s = Math.max(0, ...actions.map((a) => (a.release_s ?? 0) + (a.after_s ?? 0)));
    const waits_s = (item.kind === 'wait' && !item.background) || item.kind === 'watch' ? item.usual_s : 0;
    return Math.max(HAND_S, longest_s, waits_s);
  }
}
