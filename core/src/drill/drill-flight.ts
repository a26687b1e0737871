import {
  type CockpitControl,
  holdSeconds,
  isPiston,
  type Item,
  stagesOf,
  type StandInAction,
  type WatchedType,
} from '../aircraft/index.ts';
import { type Entry, isFinished, itemState, legsAhead, type Payload, presentItem, rightAnswer, stagesDone, workingList } from '../procedure/index.ts'; // oxfmt-ignore
import { createSession, type Effects, NO_PAST, type RunSession } from '../session/index.ts';
import { conditionsOf, SimulatedCockpit, TICK_S } from '../simulator/index.ts';
import { type Trace, TraceBuilder } from '../trace/index.ts';
import type { Act, TimedAct } from './act.ts';
import { ArmedFaults, type Struck } from './armed-faults.ts';
import { CockpitHands } from './cockpit-hands.ts';
import { isSpot } from './cockpit-plan.ts';
import { countingStamp, DRILL_RUN } from './drill-record.ts';
import { EarlyTurns } from './early-turns.ts';
import type { DrillNote, DrillOptions, FlownDrill } from './flown-drill.ts';
import type { Lesson } from './lesson.ts';
import { itemsOfLesson } from './lesson-items.ts';
import { PatientPilot } from './patient-pilot.ts';
import { TimedHolds } from './timed-holds.ts';

/** the list is looked at so often by the hand that leads up to the lesson */
const LOOK_EVERY_TICKS = 5;
/** a second hand on the same item is part of it for so long */
const SAME_ACT_S = 10;
/** a lead-up that takes longer than this does not come to its lesson, s */
const LEAD_UP_S = 1800;

/**
 * One lesson flown on the simulator through a session of its own: what the learner moves, looks at and says goes in, the
 * session sees the rest. Pure; the same lesson, seed and acts give the same drill, bit for bit.
 */
export class DrillFlight {
  readonly type: WatchedType;
  readonly lesson: Lesson;
  readonly session: RunSession;
  readonly hands: CockpitHands;
  readonly notes: DrillNote[] = [];
  readonly acts: TimedAct[] = [];
  readonly holds = new TimedHolds();
  /** the last frame, in the order of the type's channels */
  frame: Float64Array;
  begun_s = 0;
  over = false;
  private readonly seed: number;
  private readonly by: string;
  private readonly cockpit: SimulatedCockpit;
  private readonly builder: TraceBuilder;
  private readonly resolutions: readonly number[];
  private readonly faults: ArmedFaults;
  private tick_ = 0;
  private told: Entry[] = [];
  private readonly early = new EarlyTurns();

  constructor({ type, lesson, seed, brief, by = 'learner' }: DrillOptions) {
    const preset = type.standIn.find((p) => p.id === lesson.day);
    if (!preset) throw new RangeError(`${type.id} has no condition named ${lesson.day}`);
    this.type = type;
    this.lesson = lesson;
    this.seed = seed;
    this.by = by;
    this.cockpit = new SimulatedCockpit(type, conditionsOf(type, preset), preset.faults, seed);
    if (!isPiston(type.simulator) && brief.expected.mass !== null)
      this.cockpit.move({ control: 'mass_kg', to: brief.expected.mass });
    this.hands = new CockpitHands(type, this.cockpit);
    this.session = createSession(type, { run: DRILL_RUN, past: NO_PAST, stamp: countingStamp() });
    this.builder = new TraceBuilder(
      type.channels.map((c) => c.id),
      16_384,
    );
    this.resolutions = type.channels.map((c) => c.resolution);
    this.faults = new ArmedFaults(lesson.faults);
    this.frame = new Float64Array(type.channels.length).fill(NaN);
    const { id, version } = type;
    const opened = { tail: 'drill', type: id, typeVersion: version, source: 'simulated' as const, pad: '', conditions: preset.label }; // oxfmt-ignore
    this.take(this.session.open(by, opened, brief));
    this.leadUp();
    this.begun_s = this.t_s;
  }

  get t_s(): number {
    return Math.round(this.tick_ * TICK_S * 1000) / 1000;
  }

  get struck(): readonly Struck[] {
    return this.faults.struck;
  }

  get tick(): number {
    return this.tick_;
  }

  /** What the session has said since this was asked last. */
  takeTold(): Entry[] {
    return this.told.splice(0);
  }

  /** One control period of 20 ms. @returns false once the lesson is over */
  step(): boolean {
    if (this.over) return false;
    this.advance();
    for (const held of this.holds.due((item) => this.asked_s(item), this.t_s)) this.hasHeld(held);
    this.notes.push(...this.early.again(this.t_s, (item) => this.turned(item)));
    this.faults.step(this.cockpit, this.t_s);
    if (this.isThrough()) this.over = true;
    return !this.over;
  }

  /** What the learner does now. @throws RangeError for a control, or a place of it, that is not there */
  act(act: Act): void {
    if (this.over) return;
    this.acts.push({ tick: this.tick_, act });
    switch (act.kind) {
      case 'move':
        return this.moved(act.control, act.to);
      case 'hand':
        return this.hands.hold(act.control, act.on);
      case 'look':
        return this.looked(act.item, act.alternative);
      case 'not-good':
        return this.notGood(act.item);
      case 'leg':
        return this.beginsLeg(act.leg);
      case 'stop':
        return this.stopped();
      case 'hint':
        return this.hinted();
      case 'fault':
        return this.note('armed', act.condition, this.faults.arm(this.type, act.condition));
      case 'weather':
        return this.weatherSet(act);
      case 'simulated-hand':
        return this.cockpit.move(act.action);
    }
  }

  private weatherSet({ air_C, headwind_kt }: Extract<Act, { kind: 'weather' }>): void {
    if (air_C !== null) this.cockpit.setAir(air_C);
    const blows = headwind_kt !== null && this.cockpit.setHeadwind(headwind_kt);
    const wind = blows ? `${headwind_kt < 0 ? `tailwind ${-headwind_kt}` : `headwind ${headwind_kt}`} kt` : null;
    this.note('armed', 'weather', [air_C === null ? null : `${air_C} °C`, wind].filter((w) => w !== null).join(', '));
  }

  /** The learner, or the instructor, ends it here. */
  end(): void {
    this.over = true;
  }

  /** What is to be done now, null when nothing is left. */
  get present(): Item | null {
    return presentItem(this.type, this.session.state);
  }

  /** What was flown so far. */
  flown(): FlownDrill {
    const { type, lesson, seed, acts, notes, struck, begun_s, session } = this;
    return { type, lesson, seed, acts: [...acts], entries: session.entries, state: session.state, notes: [...notes], struck: [...struck], begun_s, ended_s: this.t_s }; // oxfmt-ignore
  }

  /** Its frames so far. */
  trace(): Trace {
    return this.builder.toTrace();
  }

  /** Legs that may be begun now. */
  legsAhead(): ReturnType<typeof legsAhead> {
    const { state } = this.session;
    return state.abort || !isFinished(this.type, state) ? [] : legsAhead(this.type, state).slice(0, 1);
  }

  private advance(): void {
    this.tick_++;
    const values = this.cockpit.tick();
    for (let i = 0; i < values.length; i++) {
      const steps = 1 / this.resolutions[i]!;
      values[i] = Math.round(values[i]! * steps) / steps;
    }
    this.frame = values;
    this.builder.push(this.t_s, values);
    this.take(this.session.frame(this.t_s, values));
  }

  private take({ journal }: Effects): void {
    for (const entry of journal) this.told.push(entry);
  }

  /** A patient hand works the list up to the first item of the lesson. */
  private leadUp(): void {
    const { from } = this.lesson;
    if (from === undefined || this.present?.id === from) return;
    const hands = { move: (action: StandInAction) => this.led(action), say: (payload: Payload) => this.say(payload) };
    const pilot = new PatientPilot(this.type, hands, { seed: this.seed, through: 'shut-down' });
    while (this.t_s < LEAD_UP_S && !this.hasComeTo(from)) {
      this.advance();
      if (this.tick_ % LOOK_EVERY_TICKS === 0 && !pilot.look(this.t_s, this.session)) break;
    }
    if (!this.hasComeTo(from)) throw new RangeError(`${this.lesson.id}: a patient hand does not come to ${from}`);
    this.told = [];
  }

  private hasComeTo(item: string): boolean {
    return this.present?.id === item || itemState(this.session.state, item).status !== 'todo';
  }

  private led(action: StandInAction): void {
    const meant = action.release_s === undefined && !action.when && action.after_s === undefined ? this.hands.meantBy(action) : null; // oxfmt-ignore
    if (meant) this.hands.move(meant.control.id, meant.to);
    else this.cockpit.move(action);
  }

  /** @returns why it was refused, null when it was taken */
  private say(payload: Payload): string | null {
    const answered = this.session.answer({ by: this.by, t_s: this.t_s, payload });
    this.take(answered.effects);
    return answered.ok ? null : answered.message;
  }

  private note(kind: DrillNote['kind'], of: string, words: string): void {
    this.notes.push({ t_s: this.t_s, kind, of, words });
  }

  /** What a hint tells of the present item: its zone, then what it is, then why. */
  private hinted(): void {
    const item = this.present;
    const before = this.notes.filter((n) => n.kind === 'hint' && n.of === item?.id).length;
    const told = item ? [`it is in the zone ${item.zone}`, item.challenge, item.why] : [];
    this.note('hint', item?.id ?? '', told[Math.min(before, told.length - 1)] ?? 'nothing is left');
  }

  private moved(id: string, to: number | string): void {
    const control = this.hands.move(id, to);
    for (const held of this.holds.letGo(control, (item) => this.hands.wants(item, control, to), this.t_s))
      this.hasHeld(held);
    const own = itemsOfLesson({ type: this.type, lesson: this.lesson, state: this.session.state });
    const wanting = new Set(own.filter((i) => this.hands.wants(i, control, to)).map((i) => i.id));
    const item = this.meant((i) => wanting.has(i.id));
    if (item) this.turnTo(item);
    else if (!this.isNoMistake(control, to, wanting)) {
      const place = control.positions.find((p) => p.to === to)?.label;
      this.note('stray', id, place === undefined ? control.label : `${control.label} to ${place}`);
    }
    if (item?.kind === 'hold') this.holds.begin(item, control, this.t_s);
    if (item?.kind === 'set' && !item.expect) this.say(rightAnswer(item, { type: this.type, state: this.session.state })); // oxfmt-ignore
  }

  /** A lever that is worked, a switch that is let go, what a test tries, and what belongs to an item that is settled by now. */
  private isNoMistake(control: CockpitControl, to: number | string, wanting: ReadonlySet<string>): boolean {
    if (control.kind === 'lever' || (control.kind === 'hold' && to === control.positions[0]!.to)) return true;
    const { state } = this.session;
    const settledJustNow = [...wanting].some((id) => this.t_s - itemState(state, id).t_s <= SAME_ACT_S);
    return settledJustNow || this.isTried(control.zone);
  }

  /** The next item of the list that is not settled and fits, the present one first. */
  private meant(fits: (item: Item) => boolean): Item | undefined {
    const { state } = this.session;
    const list = workingList(this.type, state).filter((i) => itemState(state, i.id).status === 'todo');
    const at = this.present ? Math.max(0, list.indexOf(this.present)) : 0;
    return [...list.slice(at), ...list.slice(0, at)].find(fits);
  }

  /** Sensors settle only what is present: what the hand has begun becomes that. */
  private turnTo(item: Item): void {
    if (item === this.present || item.meanwhile) return;
    const refused = this.say({ kind: 'item-chosen', item: item.id });
    if (refused !== null) this.early.add({ t_s: this.t_s, kind: 'early', of: item.id, words: refused });
  }

  /** The item is begun, or settled, by now. */
  private turned(item: string): boolean {
    if (this.present?.id === item || itemState(this.session.state, item).status !== 'todo') return true;
    return this.say({ kind: 'item-chosen', item }) === null;
  }

  private isTried(zone: string): boolean {
    const present = this.present;
    return present?.kind === 'test' && present.zone === zone;
  }

  private looked(id: string, alternative: string | undefined): void {
    const item = this.meant((i) => i.id === id);
    if (!item) return;
    if (item.kind === 'hold') {
      // what a hand holds is settled when it lets go
      if (isSpot(this.type, item)) this.holds.begin(item, null, this.t_s);
      return;
    }
    if (item.kind === 'decide' && alternative !== undefined) {
      const label = item.alternatives.find((a) => a.id === alternative)?.label ?? alternative;
      this.refusedUnless(item, this.say({ kind: 'decided', item: id, alternative, reason: label }));
      return;
    }
    const first = this.answerOf(item);
    const refused = this.say(first);
    this.refusedUnless(item, refused);
    // with two crew the line is read first, then answered
    if (refused === null && first.kind === 'challenged')
      this.refusedUnless(item, this.say(rightAnswer(item, { type: this.type, state: this.session.state })));
  }

  /** What a look says of an item: that it is as it should be, or that the next stage, which nothing senses, is done. */
  private answerOf(item: Item): Payload {
    const { state } = this.session;
    const at = stagesDone(state, item);
    const stage = item.kind === 'measure' ? stagesOf(item)[at] : undefined;
    if (stage && !stage.expect)
      return { kind: 'stage-done', item: item.id, stage: at, value: null, words: stage.do, last: false };
    return rightAnswer(item, { type: this.type, state });
  }

  private refusedUnless(item: Item, refused: string | null): void {
    if (refused === null) return;
    this.note(item === this.present ? 'refused' : 'early', item.id, refused);
  }

  private asked_s(item: Extract<Item, { kind: 'hold' }>): number {
    return holdSeconds(item, this.session.state.brief?.oat_C ?? null);
  }

  private hasHeld({ item, held_s }: { item: Item; held_s: number }): void {
    this.refusedUnless(item, this.say({ kind: 'item-done', item: item.id, how: 'declared', value: held_s, words: '' }));
  }

  private notGood(id: string): void {
    const item = this.meant((i) => i.id === id);
    if (item) this.refusedUnless(item, this.say({ kind: 'item-fault', item: id, note: 'Found not good in the drill' }));
  }

  private beginsLeg(leg: string): void {
    for (const action of this.type.legs.find((l) => l.id === leg)?.standIn ?? []) this.led(action);
    const refused = this.say({ kind: 'leg-begun', leg, how: 'declared' });
    if (refused !== null) this.note('early', leg, refused);
  }

  private stopped(): void {
    this.note('stopped', this.session.state.abort?.reason ?? 'pilot', 'The start was stopped');
    if (!this.session.state.abort) this.say({ kind: 'abort', watch: '', reason: 'pilot', text: 'Stopped by the pilot', say: '', figure: '' }); // oxfmt-ignore
  }

  /** The last item is settled, or nothing is left: of a start that was stopped, its actions. */
  private isThrough(): boolean {
    const { state } = this.session;
    if (state.status !== 'open') return true;
    if (state.abort) return presentItem(this.type, state) === null;
    const { until } = this.lesson;
    if (until !== undefined) return itemState(state, until).status !== 'todo';
    return isFinished(this.type, state) && legsAhead(this.type, state).length === 0;
  }
}
