import type { TurbineStart, TypeFile } from '../aircraft/index.ts';
import * as aborts from './abort-calls.ts';
import { type Corridor, ProfileBuilder, type StartProfile } from './corridor.ts';
import { CorridorAlarm, outsideLearned } from './corridor-alarm.ts';
import type { EventSink } from './events.ts';
import { PeakPredictor } from './predictor.ts';
import type { Milestone } from './milestone.ts';
import { StartMachine } from './start-machine.ts';
import { StuckReading } from './stuck-reading.ts';
import { turbineMilestones } from './turbine-milestones.ts';

/** a spool turning faster than this is no new attempt */
const STILL_NG_PCT = 16;
const SENSOR_LOST_AFTER_S = 0.5;
const CUT_AFTER_S = 0.1;
const FUEL_FLOWS_KG_H = 1;
/** how far the indication may have fallen by the time that a cut is seen */
const COOLED_K = 60;
/** a flicker of flame in the exhaust is no fire yet */
const FIRE_FOR_S = 1.5;
const ROTOR_MOVES_PCT = 1.5;
/** a spool has inertia: a speed that is gone from one frame to the next is a lost pick-up */
const PICKUP_GONE_FROM_PCT = 5;
const STUCK_MOVES_NG_PCT = 5;
const STUCK_MOVES_TOT_K = 60;

type Role = keyof TurbineStart['channels'];

/** The start of a gas turbine, or of an auxiliary unit: the control or the pilot's hand opens the fuel. */
export class TurbineStartMachine extends StartMachine {
  readonly spec: TurbineStart;
  readonly predictor: PeakPredictor;
  corridor: Corridor | null;
  private readonly i: Record<Role, number>;
  private readonly hotAbove_C: number;
  private readonly builder = new ProfileBuilder();
  private readonly corridorAlarm: CorridorAlarm;
  private readonly stuckTot = new StuckReading();
  private readonly stuckNg = new StuckReading();
  private totMin_C = Infinity;
  private hung_s = 0;
  private lost_s = 0;
  private cut_s = 0;
  private fire_s = 0;
  private idle_s = 0;
  private lastNg_pct = NaN;
  private releaseCalled = false;
  private unseenOil = false;
  private unseenRotor = false;
  private oneChannel = false;

  constructor(type: TypeFile, spec: TurbineStart, corridor: Corridor | null, emit: EventSink) {
    super(type, spec, emit);
    this.spec = spec;
    this.corridor = corridor;
    this.predictor = new PeakPredictor(spec.lag);
    this.corridorAlarm = new CorridorAlarm(spec.corridor);
    const index = (id: string | undefined): number => type.channels.findIndex((c) => c.id === id);
    const c = spec.channels;
    this.i = {
      speed: index(c.speed),
      temperature: index(c.temperature),
      volts: index(c.volts),
      fuelFlow: index(c.fuelFlow),
      selector: index(c.selector),
      outsideAir: index(c.outsideAir),
      rotor: index(c.rotor),
      oilPressure: index(c.oilPressure),
      fire: index(c.fire),
      controlChannels: index(c.controlChannels),
    };
    const start = type.limits.find((l) => l.channel === c.temperature && l.phases.includes('start'));
    const mildest = start?.bands[0];
    this.hotAbove_C = mildest && 'above' in mildest ? mildest.above : Infinity;
  }

  milestones(): Milestone[] {
    return turbineMilestones(this.spec, this.record, this.state);
  }

  profile(): StartProfile {
    return this.builder.profile();
  }

  protected begins(values: ArrayLike<number>): boolean {
    const motoring = this.spec.fuelBy === 'control' && values[this.i.selector] === 0;
    return !motoring && !(values[this.i.speed]! > STILL_NG_PCT);
  }

  protected shutDown(values: ArrayLike<number>): boolean {
    return !(values[this.i.fuelFlow]! >= FUEL_FLOWS_KG_H) && values[this.i.speed]! < this.spec.stoppedBelow_pct;
  }

  protected reset(_t_s: number, values: ArrayLike<number>): void {
    this.record.residual_C = values[this.i.temperature]!;
    this.predictor.reset();
    this.builder.reset();
    this.corridorAlarm.reset();
    this.stuckTot.reset();
    this.stuckNg.reset();
    this.totMin_C = Infinity;
    this.hung_s = 0;
    this.lost_s = 0;
    this.cut_s = 0;
    this.fire_s = 0;
    this.idle_s = 0;
    this.lastNg_pct = NaN;
    this.releaseCalled = false;
    this.unseenOil = false;
    this.unseenRotor = false;
    this.oneChannel = false;
  }

  protected override startWords(again: boolean): string {
    return again && this.spec.fuelBy === 'control' ? 'The control tries once more' : super.startWords(again);
  }

  protected follow(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    if (this.state === 'aborted') {
      this.lateLight(t_s, values);
      return;
    }
    if (this.lostReading(t_s, dt_s, values)) return;
    this.progress(t_s, dt_s, values, starterOn);
    if (this.starting) this.judge(t_s, dt_s, values, starterOn);
  }

  protected sample(t_s: number, dt_s: number, values: ArrayLike<number>): void {
    const r = this.record;
    const tot = values[this.i.temperature]!;
    const ng = values[this.i.speed]!;
    const volts = values[this.i.volts]!;
    this.predictor.update(dt_s, ng, tot);
    if (!(volts >= r.voltsMin_V)) r.voltsMin_V = volts;
    if (values[this.i.fuelFlow]! > FUEL_FLOWS_KG_H) this.builder.add(ng, tot, this.predictor.gas_C);
    const burns = !Number.isNaN(r.fuelAt_s) || !Number.isNaN(r.lightAt_s);
    if (burns && !(tot <= r.peak_C)) {
      r.peak_C = tot;
      r.peakAt_s = t_s;
    }
  }

  protected isUnderWay(values: ArrayLike<number>, starterOn: boolean): boolean {
    const burns = values[this.i.fuelFlow]! > FUEL_FLOWS_KG_H;
    return burns && values[this.i.speed]! > (starterOn ? STILL_NG_PCT : this.spec.stoppedBelow_pct);
  }

  protected foundUnderWay(t_s: number): void {
    this.record.fuelAt_s = t_s;
    this.record.lightAt_s = t_s;
    this.enter(t_s, 'accelerating', 'Found under way');
  }

  protected isBlind(values: ArrayLike<number>): boolean {
    return Number.isNaN(values[this.i.temperature]!) || Number.isNaN(values[this.i.speed]!);
  }

  /** Fuel that was given up as unlit, and burns after all. */
  private lateLight(t_s: number, values: ArrayLike<number>): void {
    const r = this.record;
    if (this.abortReason !== 'no-light' || !Number.isNaN(r.lightAt_s)) return;
    const tot = values[this.i.temperature]!;
    if (tot < this.totMin_C) this.totMin_C = tot;
    if (!(tot > this.totMin_C + this.spec.lightRise_K)) return;
    r.lightAt_s = t_s;
    this.stopped(t_s, aborts.lateLight(t_s - r.fuelAt_s, this.spec.lightWithin_s));
  }

  private lostReading(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    const ng = values[this.i.speed]!;
    const gone = ng === 0 && this.lastNg_pct > PICKUP_GONE_FROM_PCT;
    if (!gone) this.lastNg_pct = ng;
    const ngLost = Number.isNaN(ng) || gone;
    if (!ngLost && !Number.isNaN(values[this.i.temperature]!)) {
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
      const fuel = values[this.i.fuelFlow]!;
      if (fuel > FUEL_FLOWS_KG_H) this.fuelOn(t_s, ng, tot, values);
      else if (Number.isNaN(fuel)) this.lightUnseenFuel(t_s, tot);
      else if (spec.fuelBy === 'pilot' && this.duty.on_s === 0) this.motored(t_s);
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
    if (this.state === 'self-sustaining') this.settle(t_s, dt_s, ng);
  }

  private fuelOn(t_s: number, ng: number, tot: number, values: ArrayLike<number>): void {
    const { fuelFrom_pct } = this.spec;
    this.record.fuelAt_s = t_s;
    this.totMin_C = tot;
    this.enter(t_s, 'fuel-on', 'Fuel on');
    this.judgeGates(t_s, 'fuel', values);
    // fuel and flame came while nothing was seen: to wait for the flame now would be to stop a start that burns
    if (tot > this.record.residual_C + this.spec.lightRise_K) {
      this.foundUnderWay(t_s);
      return;
    }
    if (fuelFrom_pct === undefined || ng >= fuelFrom_pct) return;
    const text = `Fuel at ${ng.toFixed(1)} % Ng; not before ${fuelFrom_pct} %. Expect it hotter`;
    this.cue(t_s, 'fuel-early', 'caution', text, 'Fuel early.');
  }

  /** Where fuel is not sensed, only the flame tells that it came: how long it took cannot be judged. */
  private lightUnseenFuel(t_s: number, tot: number): void {
    if (tot < this.totMin_C) this.totMin_C = tot;
    if (!(tot > this.totMin_C + this.spec.lightRise_K)) return;
    this.record.lightAt_s = t_s;
    this.enter(t_s, 'accelerating', 'Light-off, fuel not sensed');
    this.unseen(t_s, 'fuel', 'Fuel flow', 'whether the light was late cannot be judged');
  }

  /** The starter turned and no fuel came: the engine was motored. */
  private motored(t_s: number): void {
    this.record.attempt--;
    this.enter(t_s, 'before', 'Motored without fuel');
  }

  private settle(t_s: number, dt_s: number, ng: number): void {
    const r = this.record;
    const { idle_pct, idleFor_s } = this.spec;
    const inside = ng >= idle_pct[0] && ng <= idle_pct[1];
    this.idle_s = inside ? this.idle_s + dt_s : 0;
    if (inside && Number.isNaN(r.idleAt_s)) r.idleAt_s = t_s;
    if (!inside) r.idleAt_s = NaN;
    if (this.idle_s < idleFor_s) return;
    this.enter(t_s, 'idle', 'Idle stable');
    this.done(t_s, Number.isNaN(r.peak_C) ? 'Idle stable' : `Idle stable. Peak ${r.peak_C.toFixed(0)}`);
  }

  private judge(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    const spec = this.spec;
    const r = this.record;
    const ng = values[this.i.speed]!;
    this.fire_s = values[this.i.fire]! >= 1 ? this.fire_s + dt_s : 0;
    if (this.fire_s > FIRE_FOR_S) return this.abort(t_s, aborts.fire(ng));
    if (spec.fuelBy === 'control' && values[this.i.selector] === 0) return this.abort(t_s, aborts.selectorOff(ng));
    if (this.controlFault(t_s, ng, values)) return;
    if (this.state === 'cranking') {
      if (t_s - r.starterAt_s > spec.crankWithin_s && ng < spec.crankTo_pct)
        this.abort(t_s, aborts.noCrank(ng, spec.crankWithin_s));
      return;
    }
    if (this.fuelCut(t_s, dt_s, values)) return;
    if (this.state === 'fuel-on') {
      if (t_s - r.fuelAt_s > spec.lightWithin_s) this.noLight(t_s);
      return;
    }
    this.judgeDeadlines(t_s, values, starterOn);
    if (this.starting) this.judgeAcceleration(t_s, dt_s, ng);
    if (this.starting) this.judgeReadings(t_s, dt_s, values);
    if (this.starting && this.doubt === null) this.judgeCorridor(t_s, ng, values);
  }

  private controlFault(t_s: number, ng: number, values: ArrayLike<number>): boolean {
    const healthy = values[this.i.controlChannels]!;
    if (healthy < 1) {
      this.abort(t_s, aborts.controlFault(ng));
      return true;
    }
    if (healthy < 2 && !this.oneChannel) {
      this.oneChannel = true;
      this.cue(t_s, 'control-one-channel', 'caution', 'The control has one channel left', 'One control channel.');
    }
    return false;
  }

  private noLight(t_s: number): void {
    this.abort(t_s, aborts.noLight(t_s - this.record.fuelAt_s, this.spec.lightWithin_s));
  }

  /** The fuel was shut, or has gone: told apart by whose hand it was and what was going wrong. @returns true when it was */
  private fuelCut(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    this.cut_s = values[this.i.fuelFlow]! < FUEL_FLOWS_KG_H ? this.cut_s + dt_s : 0;
    if (this.cut_s <= CUT_AFTER_S) return false;
    const r = this.record;
    const ng = values[this.i.speed]!;
    if (this.spec.fuelBy === 'pilot')
      this.abort(t_s, values[this.i.selector]! > 0 ? aborts.died(ng) : aborts.selectorOff(ng));
    else if (Number.isNaN(r.lightAt_s)) this.noLight(t_s);
    else if (this.predictor.Tf_C > this.hotAbove_C - COOLED_K)
      this.abort(t_s, aborts.hot(r.peak_C, 'the control has shut the fuel'));
    else if (this.hung_s > this.spec.hungFor_s / 2) this.hung(t_s, ng);
    else this.abort(t_s, aborts.controlAbort(ng));
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
    const oilLate = this.i.oilPressure >= 0 && Number.isNaN(r.oilAt_s) && t_s - r.lightAt_s > spec.oilFirstWithin_s;
    const oil = values[this.i.oilPressure]!;
    const rotorLate = spec.rotorMovingBy_pct !== undefined && Number.isNaN(r.rotorAt_s) && ng >= spec.rotorMovingBy_pct;
    const rotor = values[this.i.rotor]!;
    if (oilLate && !Number.isNaN(oil)) this.abort(t_s, aborts.noOilPressure(oil, spec.oilFirstWithin_s));
    else if (rotorLate && rotor <= ROTOR_MOVES_PCT) this.abort(t_s, aborts.rotorNotTurning(ng));
    else if (ng > spec.overspeed_pct) this.abort(t_s, aborts.overspeed(ng, spec.overspeed_pct));
    else if (starterOn && ng > spec.starterRelease_pct + spec.starterReleaseMargin_pct)
      this.abort(t_s, aborts.starterNotReleasing(ng));
    else if (t_s - r.starterAt_s > spec.idleWithin_s && Number.isNaN(r.idleAt_s))
      this.abort(t_s, aborts.tooSlow(ng, spec.idleWithin_s));
    if (!this.starting) return;
    if (starterOn) this.callRelease(t_s, ng);
    this.tellUnseen(t_s, oilLate && Number.isNaN(oil), rotorLate && Number.isNaN(rotor));
  }

  /** Where the pilot's hand stops the starter, the speed to do it is called once. */
  private callRelease(t_s: number, ng: number): void {
    if (this.spec.fuelBy !== 'pilot' || this.releaseCalled || ng < this.spec.starterRelease_pct) return;
    this.releaseCalled = true;
    this.call(t_s, 'starter-release', `${ng.toFixed(0)} percent, starter off`);
  }

  /** What should be there by now and cannot be read is told once. */
  private tellUnseen(t_s: number, oil: boolean, rotor: boolean): void {
    if (oil && !this.unseenOil) {
      this.unseenOil = true;
      this.unseen(t_s, 'oil', 'Oil pressure', `${this.spec.oilFirst_bar} bar are wanted by now`);
    }
    if (rotor && !this.unseenRotor) {
      this.unseenRotor = true;
      this.unseen(t_s, 'rotor', 'Rotor speed', 'it must be turning by now');
    }
  }

  private unseen(t_s: number, id: string, what: string, wanted: string): void {
    this.cue(t_s, `unseen-${id}`, 'caution', `${what} is unknown; ${wanted}. Look and decide`, `${what} unknown.`);
  }

  private judgeAcceleration(t_s: number, dt_s: number, ng: number): void {
    const slow = ng < this.spec.hungBelow_pct && this.predictor.speedRate_pct_s < this.spec.hungRate_pct_s;
    this.hung_s = slow ? this.hung_s + dt_s : Math.max(0, this.hung_s - dt_s);
    if (this.hung_s > this.spec.hungFor_s) this.hung(t_s, ng);
  }

  /** A reading that stands still takes the forecast with it. */
  private judgeReadings(t_s: number, dt_s: number, values: ArrayLike<number>): void {
    const tot = values[this.i.temperature]!;
    const ng = values[this.i.speed]!;
    const totStands = this.stuckTot.update(dt_s, tot, ng, STUCK_MOVES_NG_PCT);
    const ngStands = this.stuckNg.update(dt_s, ng, tot, STUCK_MOVES_TOT_K);
    if (this.doubt !== null || (!totStands && !ngStands)) return;
    this.doubt = totStands
      ? `Temperature has stood at ${tot.toFixed(0)} °C while the speed rose`
      : `Speed has stood at ${ng.toFixed(1)} % while the temperature moved`;
    const text = `${this.doubt}: it may be stuck. No forecast any more; judge by the other instruments`;
    this.cue(t_s, 'reading-stuck', 'caution', text, totStands ? 'Temperature may be stuck.' : 'Speed may be stuck.');
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
    else this.cue(t_s, 'outside-corridor', 'caution', `${text}. ${outside}`, 'Temperature above its habit.');
  }
}
