import type { AbortReason, StartWatch, TypeFile } from '../aircraft/index.ts';
import * as aborts from './abort-calls.ts';
import { type Corridor, ProfileBuilder } from './corridor.ts';
import { CorridorAlarm, outsideLearned } from './corridor-alarm.ts';
import { blankRecord, type EventSink, type StartRecord, type StartState } from './events.ts';
import { PeakPredictor } from './predictor.ts';

/** below this a turbine counts as standing still for a new attempt */
const STILL_NG_PCT = 8;
const SENSOR_LOST_AFTER_S = 0.5;
const CONTROL_CUT_AFTER_S = 0.1;
const FUEL_FLOWS_KG_H = 1;
const ROTOR_MOVES_PCT = 1.5;

/** One engine start as states with deadlines, judged from sensed readings alone (docs/physics.md, start watch). */
export class StartMachine {
  readonly spec: StartWatch;
  state: StartState = 'before';
  record: StartRecord = blankRecord(0);
  readonly predictor: PeakPredictor;
  readonly profile = new ProfileBuilder();
  corridor: Corridor | null;
  abortReason: AbortReason | null = null;
  /** seconds that the starter has turned in the present engagement */
  starterOn_s = 0;
  starterOffSince_s = NaN;

  private readonly emit: EventSink;
  private readonly i: Record<keyof StartWatch['channels'], number>;
  private readonly hotAbove_C: number;
  private totMin_C = Infinity;
  private hung_s = 0;
  private slowRotation = false;
  private lost_s = 0;
  private cut_s = 0;
  private readonly corridorAlarm: CorridorAlarm;
  private idle_s = 0;
  private starterWarned = false;
  private restVolts_V = NaN;

  constructor(type: TypeFile, spec: StartWatch, corridor: Corridor | null, emit: EventSink) {
    this.spec = spec;
    this.corridor = corridor;
    this.emit = emit;
    this.predictor = new PeakPredictor(spec.lag);
    this.corridorAlarm = new CorridorAlarm(spec.corridor);
    const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
    const c = spec.channels;
    this.i = {
      speed: index(c.speed),
      temperature: index(c.temperature),
      rotor: index(c.rotor),
      oilPressure: index(c.oilPressure),
      volts: index(c.volts),
      starterAmps: index(c.starterAmps),
      fuelFlow: index(c.fuelFlow),
      selector: index(c.selector),
      outsideAir: index(c.outsideAir),
    };
    const start = type.limits.find((l) => l.channel === spec.channels.temperature && l.phases.includes('start'));
    const mildest = start?.bands[0];
    this.hotAbove_C = mildest && 'above' in mildest ? mildest.above : Infinity;
  }

  get starting(): boolean {
    return (
      this.state === 'cranking' ||
      this.state === 'fuel-on' ||
      this.state === 'accelerating' ||
      this.state === 'self-sustaining'
    );
  }

  /** Whether this frame, with nothing going on, needs the machine at all: the starter draws, or it drew just before. */
  wakes(values: ArrayLike<number>): boolean {
    return values[this.i.starterAmps]! > this.spec.starterOn_A || this.starterOn_s > 0;
  }

  /** Remembers the volts of a quiet bus, for the dip of the next start. */
  rest(values: ArrayLike<number>): void {
    this.restVolts_V = values[this.i.volts]!;
  }

  step(t_s: number, dt_s: number, values: ArrayLike<number>): void {
    const ng = values[this.i.speed]!;
    const starterOn = values[this.i.starterAmps]! > this.spec.starterOn_A;
    this.countStarter(t_s, dt_s, starterOn);
    if (this.state === 'before' || this.state === 'aborted') {
      if (!starterOn) this.rest(values);
      if (this.state === 'aborted' && !this.slowRotation) this.afterAbort(t_s, dt_s, values, starterOn);
      const fresh = this.state === 'before' || this.slowRotation;
      if (fresh && starterOn && values[this.i.selector] !== 0 && !(ng > STILL_NG_PCT * 2)) this.begin(t_s, values);
      else return;
    }
    if (this.state === 'idle') return;
    this.observe(t_s, dt_s, values);
    if (this.lostReading(t_s, dt_s, values)) return;
    this.progress(t_s, dt_s, values, starterOn);
    if (this.starting) this.judge(t_s, dt_s, values, starterOn);
  }

  /** A stopped start is followed until the engine stands still: its peak may come after the abort. */
  private afterAbort(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    this.observe(t_s, dt_s, values);
    if (starterOn || values[this.i.speed]! > STILL_NG_PCT) return;
    this.slowRotation = true;
    this.emit({
      kind: 'start-ended',
      t_s,
      watch: this.spec.id,
      record: { ...this.record },
      profile: this.profile.profile(),
    });
  }

  /** The watch outside, or the pilot, has decided to stop this start. */
  abort(t_s: number, call: aborts.AbortCall): void {
    if (!this.starting) return;
    this.abortReason = call.reason;
    this.slowRotation = false;
    this.enter(t_s, 'aborted', call.text);
    this.emit({ kind: 'abort', t_s, watch: this.spec.id, ...call });
  }

  private countStarter(t_s: number, dt_s: number, on: boolean): void {
    if (on) {
      this.starterOn_s += dt_s;
      this.starterOffSince_s = NaN;
    } else if (this.starterOn_s > 0) {
      if (Number.isNaN(this.starterOffSince_s)) this.starterOffSince_s = t_s;
      if (t_s - this.starterOffSince_s > 1) this.starterOn_s = 0;
    }
  }

  private begin(t_s: number, values: ArrayLike<number>): void {
    const again = this.record.attempt > 0;
    this.record = blankRecord(this.record.attempt + 1);
    const r = this.record;
    r.starterAt_s = t_s;
    r.residual_C = values[this.i.temperature]!;
    r.outsideAir_C = values[this.i.outsideAir]!;
    r.voltsBefore_V = this.restVolts_V;
    this.predictor.reset();
    this.profile.reset();
    this.abortReason = null;
    this.totMin_C = Infinity;
    this.hung_s = 0;
    this.lost_s = 0;
    this.cut_s = 0;
    this.corridorAlarm.reset();
    this.idle_s = 0;
    this.starterWarned = false;
    this.enter(t_s, 'cranking', again ? 'Starter engaged again' : 'Starter engaged');
    this.call(t_s, 'starter', again ? 'The control tries once more' : 'Starter engaged');
  }

  private observe(t_s: number, dt_s: number, values: ArrayLike<number>): void {
    const r = this.record;
    const tot = values[this.i.temperature]!;
    const ng = values[this.i.speed]!;
    const volts = values[this.i.volts]!;
    this.predictor.update(dt_s, ng, tot);
    if (!(volts >= r.voltsMin_V)) r.voltsMin_V = volts;
    const amps = values[this.i.starterAmps]!;
    if (!(amps <= r.starterMax_A)) r.starterMax_A = amps;
    if (values[this.i.fuelFlow]! > FUEL_FLOWS_KG_H) this.profile.add(ng, tot, this.predictor.gas_C);
    if (!Number.isNaN(r.fuelAt_s) && !(tot <= r.peak_C)) {
      r.peak_C = tot;
      r.peakAt_s = t_s;
    }
  }

  private lostReading(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    const ngLost = Number.isNaN(values[this.i.speed]!);
    const totLost = Number.isNaN(values[this.i.temperature]!);
    if (!ngLost && !totLost) {
      this.lost_s = 0;
      return false;
    }
    this.lost_s += dt_s;
    if (this.lost_s > SENSOR_LOST_AFTER_S) {
      this.abort(t_s, aborts.sensorLost(ngLost ? 'Gas producer speed' : 'Temperature', SENSOR_LOST_AFTER_S));
    }
    return true;
  }

  private progress(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    const r = this.record;
    const spec = this.spec;
    const ng = values[this.i.speed]!;
    const tot = values[this.i.temperature]!;
    if (this.state === 'cranking') {
      if (values[this.i.fuelFlow]! > FUEL_FLOWS_KG_H) {
        r.fuelAt_s = t_s;
        this.totMin_C = tot;
        this.enter(t_s, 'fuel-on', 'Fuel on');
      }
      return;
    }
    if (this.state === 'fuel-on') {
      if (tot < this.totMin_C) this.totMin_C = tot;
      if (tot > this.totMin_C + spec.lightRise_K) {
        r.lightAt_s = t_s;
        this.enter(t_s, 'accelerating', 'Light-off');
        this.call(t_s, 'light-off', `Light-off, ${(t_s - r.starterAt_s).toFixed(1)} seconds`);
      }
      return;
    }
    if (Number.isNaN(r.rotorAt_s) && values[this.i.rotor]! > ROTOR_MOVES_PCT) {
      r.rotorAt_s = t_s;
      this.call(t_s, 'rotor', `Rotor turning at ${ng.toFixed(0)} percent`);
    }
    if (Number.isNaN(r.oilAt_s) && values[this.i.oilPressure]! >= spec.oilFirst_bar) {
      r.oilAt_s = t_s;
      this.call(t_s, 'oil', 'Oil pressure rising');
    }
    if (
      this.state === 'accelerating' &&
      !starterOn &&
      this.predictor.speedRate_pct_s > spec.hungRate_pct_s &&
      ng > spec.starterRelease_pct - 10
    ) {
      r.selfSustainingAt_s = t_s;
      r.starterOffAt_s = t_s;
      this.enter(t_s, 'self-sustaining', 'Starter cut out, on its own');
      this.call(t_s, 'self-sustaining', `On its own at ${ng.toFixed(0)} percent`);
    }
    if (this.state === 'self-sustaining') {
      const inside = ng >= spec.idle_pct[0] && ng <= spec.idle_pct[1];
      this.idle_s = inside ? this.idle_s + dt_s : 0;
      if (inside && Number.isNaN(r.idleAt_s)) r.idleAt_s = t_s;
      if (!inside) r.idleAt_s = NaN;
      if (this.idle_s >= spec.idleFor_s) {
        this.enter(t_s, 'idle', 'Idle stable');
        this.call(t_s, 'idle', `Idle stable. Peak ${r.peak_C.toFixed(0)}`);
        this.emit({ kind: 'start-done', t_s, watch: spec.id, record: { ...r }, profile: this.profile.profile() });
      }
    }
  }

  private judge(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    const spec = this.spec;
    const r = this.record;
    const ng = values[this.i.speed]!;
    const since = t_s - r.starterAt_s;
    if (values[this.i.selector] === 0) {
      this.abort(t_s, aborts.selectorOff(ng));
      return;
    }
    if (this.state === 'cranking') {
      if (since > spec.crankWithin_s && ng < spec.crankTo_pct) this.abort(t_s, aborts.noCrank(ng, spec.crankWithin_s));
      return;
    }
    if (this.cutByControl(t_s, dt_s, values)) return;
    if (this.state === 'fuel-on') {
      if (t_s - r.fuelAt_s > spec.lightWithin_s) this.noLight(t_s);
      return;
    }
    this.judgeDeadlines(t_s, values, starterOn);
    if (this.starting) this.judgeAcceleration(t_s, dt_s, ng);
    if (this.starting) this.judgeCorridor(t_s, ng, values);
  }

  private noLight(t_s: number): void {
    this.abort(t_s, aborts.noLight(t_s - this.record.fuelAt_s, this.spec.lightWithin_s));
  }

  /** The control shut the fuel by itself: told apart by what was going wrong. @returns true when it did */
  private cutByControl(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    this.cut_s = values[this.i.fuelFlow]! < FUEL_FLOWS_KG_H ? this.cut_s + dt_s : 0;
    if (this.cut_s <= CONTROL_CUT_AFTER_S) return false;
    const r = this.record;
    if (Number.isNaN(r.lightAt_s)) this.noLight(t_s);
    else if (r.peak_C > this.hotAbove_C) this.abort(t_s, aborts.hot(r.peak_C, 'the control has shut the fuel'));
    else if (this.hung_s > this.spec.hungFor_s / 2) this.hung(t_s, values[this.i.speed]!);
    else this.abort(t_s, aborts.controlAbort(values[this.i.speed]!));
    return true;
  }

  private hung(t_s: number, ng: number): void {
    const { speedRate_pct_s, Tf_C } = this.predictor;
    this.abort(t_s, aborts.hung(ng, speedRate_pct_s, this.hung_s, Tf_C));
  }

  private judgeDeadlines(t_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    const spec = this.spec;
    const r = this.record;
    const ng = values[this.i.speed]!;
    const oil = values[this.i.oilPressure]!;
    if (Number.isNaN(r.oilAt_s) && t_s - r.lightAt_s > spec.oilFirstWithin_s && !Number.isNaN(oil)) {
      this.abort(t_s, aborts.noOilPressure(oil, spec.oilFirstWithin_s));
    } else if (Number.isNaN(r.rotorAt_s) && ng >= spec.rotorMovingBy_pct && values[this.i.rotor]! <= ROTOR_MOVES_PCT) {
      this.abort(t_s, aborts.rotorNotTurning(ng));
    } else if (starterOn && ng > spec.starterRelease_pct + spec.starterReleaseMargin_pct) {
      this.abort(t_s, aborts.starterNotReleasing(ng));
    } else if (t_s - r.starterAt_s > spec.idleWithin_s && Number.isNaN(r.idleAt_s)) {
      this.abort(t_s, aborts.tooSlow(ng, spec.idleWithin_s));
    } else if (!this.starterWarned && starterOn && this.starterOn_s > spec.starterDuty.on1_s - 5) {
      this.starterWarned = true;
      this.emit({
        kind: 'cue',
        t_s,
        code: 'starter-duty',
        severity: 'caution',
        text: `Starter on for ${this.starterOn_s.toFixed(0)} s; ${spec.starterDuty.on1_s} s are allowed`,
        say: 'Starter time.',
      });
    }
  }

  private judgeAcceleration(t_s: number, dt_s: number, ng: number): void {
    const slow = ng < this.spec.hungBelow_pct && this.predictor.speedRate_pct_s < this.spec.hungRate_pct_s;
    this.hung_s = slow ? this.hung_s + dt_s : Math.max(0, this.hung_s - dt_s);
    if (this.hung_s > this.spec.hungFor_s) this.hung(t_s, ng);
  }

  private judgeCorridor(t_s: number, ng: number, values: ArrayLike<number>): void {
    const { corridor, predictor } = this;
    const tot = values[this.i.temperature]!;
    if (!corridor || !this.corridorAlarm.rises(corridor, ng, tot, predictor.gas_C)) return;
    if (predictor.speedRate_pct_s < this.spec.hungRate_pct_s) {
      // too hot for this speed because the speed has stopped: the cause is the hang, not the heat
      this.hung(t_s, ng);
      return;
    }
    const text = this.corridorAlarm.words(corridor, ng, tot, predictor);
    const outside = outsideLearned(corridor, this.record);
    if (outside === null) this.abort(t_s, aborts.goingToBeHot(tot, text));
    else {
      const say = 'Temperature above its habit.';
      this.emit({ kind: 'cue', t_s, code: 'outside-corridor', severity: 'caution', text: `${text}. ${outside}`, say });
    }
  }

  private enter(t_s: number, state: StartState, words: string): void {
    this.state = state;
    this.emit({ kind: 'state', t_s, watch: this.spec.id, state, words });
  }

  private call(t_s: number, code: string, text: string): void {
    this.emit({ kind: 'cue', t_s, code, severity: 'call', text, say: text });
  }
}
