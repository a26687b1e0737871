import type { AbortReason, StartWatch, TypeFile, Verdict } from '../aircraft/index.ts';
import { higherOf } from '../statistics/index.ts';
import * as aborts from './abort-calls.ts';
import type { CueSeverity, EventSink, StartRecord, StartState } from './events.ts';
import { blankRecord } from './events.ts';
import { Gate } from './gate.ts';
import { GAP_S, type Guard } from './limit-windows.ts';
import { Lasting } from './lasting.ts';
import type { StartProfile } from './start-profile.ts';
import type { Milestone } from './milestone.ts';
import { HOLE_S, sayUnseen, verdictOf } from './seen.ts';
import { type DayAir, UNKNOWN_AIR } from './start-day.ts';
import { StarterDuty } from './starter-duty.ts';

const WARN_BEFORE_DUTY_S = 5;
/** a deadline that comes this near is called */
const DUE_SOON_S = 3;
const LOOK_EVERY_S = 0.5;

/** reasons that say what was going to happen; when it did not, nothing has */
const FORETOLD: ReadonlySet<AbortReason> = new Set<AbortReason>(['going-to-be-hot', 'hung', 'slow', 'pilot']);

/** slower than this an engine stands */
const AT_REST_PCT = 3;
/** where its starter is not sensed, one that came to this speed from rest is being turned */
const TURNED_PCT = 4;
/** and so much above what the starter turns it to, whatever the starter's channel reads: no wind does that */
const TURNED_ANYWAY = 1.25;

/** Whether the engine stands, is being started, or runs. */
export type EnginePhase = 'off' | 'start' | 'running';

/** One engine start as states with deadlines, judged from sensed readings alone (docs/physics.md, start watch). */
export abstract class StartMachine {
  abstract readonly spec: StartWatch;
  state: StartState = 'before';
  record: StartRecord = blankRecord(0);
  abortReason: AbortReason | null = null;
  phase: EnginePhase = 'off';
  /** a limit was used up or passed in this start: it is not good, whatever comes after */
  limitPassed = false;
  /** why a reading that this start is judged by cannot be believed, null while all can */
  doubt: string | null = null;
  /** what the brief says of the air, for the next start */
  air: DayAir = UNKNOWN_AIR;
  readonly duty: StarterDuty;
  readonly gates: readonly Gate[];
  protected readonly iSpeed: number;
  protected readonly iVolts: number;
  private readonly iStarter: number;
  private readonly iOutsideAir: number;
  private readonly starterOnAbove: number;
  protected readonly emit: EventSink;
  private readonly electric: boolean;
  private restVolts_V = NaN;
  /** the last start was stopped, and did not come to idle in spite of it */
  protected failed = false;
  private speedLost_s = 0;
  /** how long it was seen to be turned: a hole counts little, an engine that was not looked at may have just begun to turn */
  private turnedFor_s = 0;
  /** the engine has stood still since it was last turned */
  private stood = false;
  /** the starter's channel reads off while the engine is turned from rest: it is told by the speed */
  private starterUnseen = false;
  private readonly turnedAnyway = new Lasting();
  private dutyWarned = false;
  private restDue_s = 0;
  private lookAgain_s = -Infinity;
  private readonly dueCalled = new Set<string>();

  protected constructor(type: TypeFile, spec: StartWatch, emit: EventSink) {
    this.emit = emit;
    this.duty = new StarterDuty(spec.duty);
    this.gates = spec.gates.map((g) => new Gate(type, g));
    const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
    this.iSpeed = index(spec.channels.speed);
    this.iVolts = index(spec.channels.volts);
    this.iOutsideAir = index(spec.channels.outsideAir);
    this.iStarter = index(spec.starter.channel);
    this.starterOnAbove = spec.starter.onAbove;
    this.electric = type.channels[this.iStarter]?.unit === 'A';
  }

  get starting(): boolean {
    return this.state !== 'before' && this.state !== 'idle' && this.state !== 'aborted';
  }

  /** Whether this engine has come down after its start was stopped, or has not been started. */
  get ranDown(): Verdict {
    if (this.phase === 'off') return true;
    return this.duty.on_s === 0 && this.speedLost_s > GAP_S ? 'unknown' : false;
  }

  /** What this start waits for, in order. */
  abstract milestones(): Milestone[];

  /** What the start showed, speed by speed; empty where there is no temperature plane. */
  abstract profile(): StartProfile;

  /** Takes the readings of one frame, before they are judged. */
  protected abstract sample(t_s: number, dt_s: number, values: ArrayLike<number>): void;

  /** Judges one frame of a start that goes on, or was stopped. @param dt_s time that was seen, 0 after a hole */
  protected abstract follow(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void;

  /** Whether this frame begins a start. @param fromRest the starter is told by a speed that came from rest */
  protected abstract begins(values: ArrayLike<number>, fromRest: boolean): boolean;

  /** The engine has been shut down, by its own readings. */
  protected abstract shutDown(values: ArrayLike<number>): boolean;

  /** Forgets the start before. */
  protected abstract reset(t_s: number, values: ArrayLike<number>): void;

  /** One frame. @returns true when the engine is now in another phase */
  advance(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    const { phase } = this;
    this.speedLost_s = Number.isNaN(values[this.iSpeed]!) ? this.speedLost_s + dt_s : 0;
    const starterOn = this.starterIsOn(dt_s, values);
    this.restDue_s = 0;
    if (starterOn || this.duty.on_s > 0) this.countStarter(t_s, dt_s, starterOn);
    switch (phase) {
      case 'off':
        if (starterOn && this.begins(values, !(values[this.iStarter]! > this.starterOnAbove))) {
          this.begin(t_s, values);
          this.phase = 'start';
          this.followStart(t_s, dt_s, values, starterOn);
        } else if ((dt_s > GAP_S || this.starterUnseen) && this.isUnderWay(values, starterOn))
          this.join(t_s, dt_s, values, starterOn);
        else if (!starterOn) this.rest(t_s, values);
        break;
      case 'start':
        this.turnedFor_s += Math.min(dt_s, HOLE_S);
        this.followStart(t_s, dt_s, values, starterOn);
        if (this.state === 'aborted' && !starterOn && this.staysAtIdle(t_s, dt_s > GAP_S ? 0 : dt_s, values))
          this.wentOn(t_s);
        if (this.state === 'idle') this.phase = 'running';
        else if (this.state === 'before') this.phase = 'off';
        else if (this.state === 'aborted') this.runDown(t_s, values);
        break;
      case 'running':
        if (this.shutDown(values)) {
          this.phase = 'off';
          this.state = 'before';
          this.stood = false;
        }
        break;
    }
    return this.phase !== phase;
  }

  /** A start that was stopped is over when the starter is off and the speed has come down. */
  private runDown(t_s: number, values: ArrayLike<number>): void {
    if (this.duty.on_s === 0 && values[this.iSpeed]! < this.spec.crankTo_pct) {
      this.phase = 'off';
      this.ended(t_s);
    } else for (const gate of this.gates) gate.runDown(t_s, values);
  }

  /** By its own channel; where that is not there, by a speed that comes from rest and has not reached where the starter lets go. */
  private starterIsOn(dt_s: number, values: ArrayLike<number>): boolean {
    const reading = values[this.iStarter]!;
    const speed = values[this.iSpeed]!;
    const sensed = !Number.isNaN(reading);
    if (reading > this.starterOnAbove) {
      // turned without a start: whatever turns on after it was not turned from rest
      if (this.phase === 'off') this.stood = false;
      this.starterUnseen = false;
      return true;
    }
    if (this.phase === 'start') return (!sensed || this.starterUnseen) && this.isTurned(speed);
    this.starterUnseen = false;
    if (this.phase !== 'off' || !this.stood) return false;
    if (!sensed) return speed > TURNED_PCT;
    this.starterUnseen = this.turnedAnyway.update(dt_s, speed > TURNED_ANYWAY * this.spec.crankTo_pct) > 0;
    return this.starterUnseen;
  }

  /** By its speed, in a start: it has not reached where the starter lets go, and has not come down after a stop. */
  private isTurned(speed_pct: number): boolean {
    const cameDown = this.state === 'aborted' && speed_pct < this.spec.crankTo_pct;
    return speed_pct < this.spec.starterRelease_pct && !cameDown;
  }

  private followStart(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    if (this.electric && !this.starterUnseen)
      this.record.starterMax_A = higherOf(this.record.starterMax_A, values[this.iStarter]!);
    this.sample(t_s, dt_s, values);
    if (this.starting) this.countUnseen(dt_s, values);
    // what lasts is what was seen to last: a hole in the data proves nothing
    this.follow(t_s, dt_s > GAP_S ? 0 : dt_s, values, starterOn);
    if (this.starting && t_s >= this.lookAgain_s) {
      this.lookAgain_s = t_s + LOOK_EVERY_S;
      this.callDeadlines(t_s);
    }
  }

  /** Data is back, and an engine that stood still before is at work: what happened meanwhile nobody has seen. */
  private join(t_s: number, unseen_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    if (starterOn) {
      this.begin(t_s, values);
      this.foundUnderWay(t_s);
      this.phase = 'start';
    } else {
      this.foundRunning();
      const text = `${this.spec.label} runs; its start was not seen. Look at the cockpit's own record`;
      this.cue(t_s, 'start-unseen', 'caution', text, 'The start was not seen.');
    }
    this.record.unseen_s += unseen_s;
  }

  /** Whether the starter has been seen to turn this engine for long enough, and the speed has not come. */
  protected doesNotTurn(speed_pct: number): boolean {
    return this.turnedFor_s > this.spec.crankWithin_s && speed_pct < this.spec.crankTo_pct;
  }

  /** Whether these readings are those of an engine that burns. */
  protected abstract isUnderWay(values: ArrayLike<number>, starterOn: boolean): boolean;

  /** The start goes on from a flame that was not seen to come. */
  protected abstract foundUnderWay(t_s: number): void;

  private countUnseen(dt_s: number, values: ArrayLike<number>): void {
    const r = this.record;
    if (dt_s > HOLE_S || this.isBlind(values)) r.unseen_s += dt_s;
    if (this.doubt !== null) r.doubted_s += dt_s;
  }

  /** A reading that this start is judged by is lost in this frame. */
  protected abstract isBlind(values: ArrayLike<number>): boolean;

  /** Readings that can end the present phase when they leave these ranges. */
  guards(): Guard[] {
    const starter = { index: this.iStarter, low: -Infinity, high: this.starterOnAbove };
    if (this.phase === 'running')
      return [starter, { index: this.iSpeed, low: this.spec.stoppedBelow_pct, high: Infinity }];
    return this.phase === 'off' ? [starter, { index: this.iSpeed, low: -Infinity, high: AT_REST_PCT }] : [];
  }

  /** Whether a first frame shows this engine at work. */
  runsIn(values: ArrayLike<number>): boolean {
    return values[this.iSpeed]! > this.spec.stoppedBelow_pct;
  }

  /** The record begins with this engine at work. */
  foundRunning(): void {
    this.phase = 'running';
    this.state = 'idle';
    this.stood = false;
  }

  /** Remembers the quiet bus and looks at the gates, while nothing goes on. */
  rest(t_s: number, values: ArrayLike<number>): void {
    if (values[this.iSpeed]! < AT_REST_PCT) {
      this.stood = true;
      this.turnedAnyway.reset();
    }
    this.restVolts_V = values[this.iVolts]!;
    for (const gate of this.gates) gate.rest(t_s, values);
  }

  /** The watch outside, or the pilot, has decided to stop this start. */
  abort(t_s: number, call: aborts.AbortCall): void {
    if (!this.starting) return;
    this.stopped(t_s, call);
  }

  /** The temperature has used up a band of its limit. @returns whether that stopped this start */
  tooHot(t_s: number, peak_C: number, because: string): boolean {
    return this.overLimit(t_s, aborts.hot(peak_C, because));
  }

  /** The bus has been below its floor for too long. @returns whether that stopped this start */
  tooFewVolts(t_s: number, lowest_V: number, because: string): boolean {
    return this.overLimit(t_s, aborts.lowVolts(lowest_V, because));
  }

  /** A limit of this start was used up or passed; it may have been stopped before. */
  protected overLimit(t_s: number, call: aborts.AbortCall): boolean {
    this.limitPassed = true;
    if (!this.starting) return false;
    this.stopped(t_s, call);
    return true;
  }

  protected stopped(t_s: number, call: aborts.AbortCall): void {
    this.abortReason = call.reason;
    this.failed = true;
    if (this.state !== 'aborted') {
      for (const gate of this.gates) gate.forget();
      this.enter(t_s, 'aborted', call.text);
    }
    this.emit({ kind: 'abort', t_s, watch: this.spec.id, ...call });
  }

  protected begin(t_s: number, values: ArrayLike<number>): void {
    const words = this.startWords(this.failed);
    this.failed = false;
    this.record = blankRecord(this.record.attempt + 1);
    const r = this.record;
    r.starterAt_s = t_s;
    r.outsideAir_C = values[this.iOutsideAir]!;
    r.pressureAltitude_ft = this.air.pressureAltitude_ft;
    r.tailwind_kt = this.air.tailwind_kt;
    r.voltsBefore_V = this.restVolts_V;
    this.abortReason = null;
    this.limitPassed = false;
    this.doubt = null;
    this.dutyWarned = false;
    this.dueCalled.clear();
    this.lookAgain_s = -Infinity;
    this.turnedFor_s = 0;
    this.reset(t_s, values);
    this.stood = false;
    this.enter(t_s, 'cranking', words);
    this.call(t_s, 'starter', words);
    this.judgeGates(t_s, 'starter');
    if (this.starterUnseen) {
      const text = 'The engine turns, but its starter reads off: whether it is engaged is told by the speed';
      this.cue(t_s, 'unseen-starter', 'caution', text, 'Starter reading not believed.');
    }
    // motoring after a start that was stopped is not held against the starter: it saves the engine
    if (this.restDue_s > 0) {
      const text = `Starter turns before its rest is over: ${Math.ceil(this.restDue_s)} s are still due`;
      this.cue(t_s, 'starter-rest', 'caution', text, 'Starter not rested.');
    }
  }

  /** @param again the last start was stopped */
  protected startWords(again: boolean): string {
    return again ? 'Starter engaged again' : 'Starter engaged';
  }

  protected judgeGates(t_s: number, at: 'starter' | 'fuel', values?: ArrayLike<number>): void {
    for (const gate of this.gates) {
      if (gate.spec.at !== at) continue;
      if (values) gate.rest(t_s, values);
      if (gate.verdict === true) continue;
      this.cue(
        t_s,
        `gate-${gate.spec.id}`,
        'caution',
        `${gate.spec.label} ${gate.reading}, ${gate.words} wanted before the ${at}. ${gate.spec.otherwise}`,
        `${gate.spec.label} not ready.`,
      );
    }
  }

  /** Calls each deadline once when it is near, for milestones that have one. */
  private callDeadlines(t_s: number): void {
    for (const m of this.milestones()) {
      if (m.met || m.due_s === null || this.dueCalled.has(m.id) || m.due_s - t_s > DUE_SOON_S || m.due_s <= t_s)
        continue;
      this.dueCalled.add(m.id);
      this.call(t_s, `due-${m.id}`, `${m.title} due in ${Math.ceil(m.due_s - t_s)} seconds`);
    }
  }

  private countStarter(t_s: number, dt_s: number, on: boolean): void {
    const due_s = this.duty.step(t_s, dt_s, on);
    if (due_s > 0) this.restDue_s = due_s;
    if (!on || this.dutyWarned || this.duty.left_s > WARN_BEFORE_DUTY_S || this.duty.allowed_s < 2 * WARN_BEFORE_DUTY_S)
      return;
    this.dutyWarned = true;
    const { on_s, allowed_s } = this.duty;
    this.cue(
      t_s,
      'starter-duty',
      'caution',
      `Starter on for ${on_s.toFixed(0)} s; ${allowed_s} s are allowed`,
      'Starter time.',
    );
  }

  protected enter(t_s: number, state: StartState, words: string): void {
    this.state = state;
    this.emit({ kind: 'state', t_s, watch: this.spec.id, state, words });
  }

  protected call(t_s: number, code: string, text: string): void {
    this.cue(t_s, code, 'call', text, text);
  }

  protected cue(t_s: number, code: string, severity: CueSeverity, text: string, say: string): void {
    this.emit({ kind: 'cue', t_s, code, severity, text, say });
  }

  /** The start has reached its idle. @param known what is said of it when all of it was seen */
  protected done(t_s: number, known: string): void {
    const verdict = verdictOf(this.record);
    if (verdict === 'good') this.call(t_s, 'idle', known);
    else {
      const text = `Idle stable, but ${sayUnseen(this.record)}: whether a limit was passed is unknown. Look at the cockpit's own record`;
      this.cue(t_s, 'start-unseen', 'caution', text, 'Idle stable. Part of the start was not seen.');
    }
    this.emit({
      kind: 'start-done',
      t_s,
      watch: this.spec.id,
      verdict,
      record: { ...this.record },
      profile: this.profile(),
    });
  }

  /** Counts how long the engine has been at its idle. @returns true when it is stable there */
  protected abstract staysAtIdle(t_s: number, dt_s: number, values: ArrayLike<number>): boolean;

  /** It was told to stop, was not stopped, and runs: its idle limits count from now on, and a good start stays a good one. */
  private wentOn(t_s: number): void {
    const foretold = this.abortReason !== null && FORETOLD.has(this.abortReason);
    this.failed = false;
    this.enter(t_s, 'idle', 'Went on against the stop, idle stable');
    // an engine whose oil pressure nobody has seen has not made a good start, however long it runs
    const oiled = this.spec.channels.oilPressure === undefined || !Number.isNaN(this.record.oilAt_s);
    if (foretold && !this.limitPassed && oiled) this.done(t_s, 'Idle stable, against the stop');
    else this.ended(t_s);
  }

  private ended(t_s: number): void {
    this.emit({
      kind: 'start-ended',
      t_s,
      watch: this.spec.id,
      record: { ...this.record },
      profile: this.profile(),
    });
  }
}
