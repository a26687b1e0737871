import type { TurbineStart, TypeFile } from '../aircraft/index.ts';
import { higherOf, lowerOf } from '../statistics/index.ts';
import * as aborts from './abort-calls.ts';
import type { Corridor } from './corridor.ts';
import { ProfileBuilder, type StartProfile } from './start-profile.ts';
import type { EventSink } from './events.ts';
import { PeakPredictor } from './predictor.ts';
import { idleWindow } from './idle-window.ts';
import { ALONE_S, Lasting } from './lasting.ts';
import type { Guard } from './limit-windows.ts';
import { SeenFor } from './seen-for.ts';
import type { Milestone } from './milestone.ts';
import { Pickup } from './pickup.ts';
import { StartMachine } from './start-machine.ts';
import { TurbineControls } from './turbine-controls.ts';
import { TurbineHeat } from './turbine-heat.ts';
import { turbineMilestones } from './turbine-milestones.ts';

/** a spool turning faster than this is no new attempt */
const STILL_NG_PCT = 16;
const SENSOR_LOST_AFTER_S = 0.5;
const FUEL_FLOWS_KG_H = 1;
/** how far the indication may have fallen by the time that a cut is seen */
const COOLED_K = 60;
const ROTOR_MOVES_PCT = 1.5;
/** readings this far apart come too late to warn of heat */
const TOO_SLOW_S = 0.5;
/** an engine that comes last, or idles so little too slow, has idled, % */
const NEAR_IDLE_PCT = 1;
/** no gas heats a thermocouple by so much between two readings */
const LEAP_K = 150;

type Role = keyof TurbineStart['channels'];

/** The start of a gas turbine, or of an auxiliary unit: the control or the pilot's hand opens the fuel. */
export class TurbineStartMachine extends StartMachine {
  readonly spec: TurbineStart;
  readonly predictor: PeakPredictor;
  corridor: Corridor | null;
  private readonly i: Record<Role, number>;
  private readonly builder = new ProfileBuilder();
  private readonly heat: TurbineHeat;
  private readonly controls: TurbineControls;
  private totMin_C = Infinity;
  /** it burns since then; the record says when only if it was seen to light */
  private flameFrom_s = NaN;
  private hung_s = 0;
  private readonly lost = new Lasting();
  private readonly cut = new Lasting();
  private readonly held = new Lasting();
  private readonly atIdle = new SeenFor();
  private readonly pickup = new Pickup();
  /** the selector was off since this start began, or was not read when it did */
  private deselected = false;
  private releaseCalled = false;
  private unseenOil = false;
  private unseenRotor = false;

  constructor(type: TypeFile, spec: TurbineStart, corridor: Corridor | null, emit: EventSink) {
    super(type, spec, emit);
    this.spec = spec;
    this.corridor = corridor;
    this.predictor = new PeakPredictor(spec.lag);
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
    this.heat = new TurbineHeat(spec, start, this.predictor);
    this.controls = new TurbineControls(spec, this.i);
  }

  milestones(): Milestone[] {
    return turbineMilestones(this.spec, this.record, this.flameFrom_s, this.state);
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
    this.heat.reset();
    this.totMin_C = Infinity;
    this.flameFrom_s = NaN;
    this.hung_s = 0;
    this.lost.reset();
    this.cut.reset();
    this.held.reset();
    this.controls.reset();
    this.atIdle.reset();
    this.pickup.reset();
    this.deselected = !(values[this.i.selector]! > 0);
    this.releaseCalled = false;
    this.unseenOil = false;
    this.unseenRotor = false;
  }

  /** A control that is left selected after its start was stopped tries by itself; one that was off is selected anew. */
  protected override startWords(again: boolean): string {
    const byControl = again && this.spec.fuelBy === 'control' && !this.deselected;
    return byControl ? 'The control tries once more' : super.startWords(again);
  }

  override rest(t_s: number, values: ArrayLike<number>): void {
    this.lookAtSelector(values);
    super.rest(t_s, values);
  }

  /** While a stop may be followed by a try of the control's own, a replay must see the selector move. */
  override guards(): Guard[] {
    const mayTry = this.phase === 'off' && this.spec.fuelBy === 'control' && this.failed && !this.deselected;
    return mayTry ? [...super.guards(), { index: this.i.selector, low: 0, high: Infinity }] : super.guards();
  }

  private lookAtSelector(values: ArrayLike<number>): void {
    if (values[this.i.selector]! <= 0) this.deselected = true;
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
    const volts = values[this.i.volts]!;
    this.lookAtSelector(values);
    this.pickup.read(dt_s, values[this.i.speed]!);
    const ng = this.pickup.speed_pct;
    this.predictor.update(dt_s, ng, tot);
    r.voltsMin_V = lowerOf(r.voltsMin_V, volts);
    if (values[this.i.fuelFlow]! > FUEL_FLOWS_KG_H) this.builder.add(ng, tot, this.predictor.speedRate_pct_s);
    if (Number.isNaN(r.fuelAt_s) && Number.isNaN(this.flameFrom_s)) return;
    const peak_C = higherOf(r.peak_C, tot);
    if (Object.is(peak_C, r.peak_C)) return;
    r.peak_C = peak_C;
    r.peakAt_s = t_s;
  }

  protected isUnderWay(values: ArrayLike<number>, starterOn: boolean): boolean {
    const burns = values[this.i.fuelFlow]! > FUEL_FLOWS_KG_H;
    return burns && values[this.i.speed]! > (starterOn ? STILL_NG_PCT : this.spec.stoppedBelow_pct);
  }

  protected foundUnderWay(t_s: number): void {
    this.burns(t_s);
    this.record.fuelAt_s = NaN;
    this.enter(t_s, 'accelerating', 'Found under way');
  }

  protected isBlind(values: ArrayLike<number>): boolean {
    return Number.isNaN(values[this.i.temperature]!) || Number.isNaN(this.pickup.speed_pct);
  }

  /** Fuel that was given up as unlit, and burns after all. */
  private lateLight(t_s: number, values: ArrayLike<number>): void {
    const r = this.record;
    if (this.abortReason !== 'no-light' || !Number.isNaN(r.lightAt_s)) return;
    const tot = values[this.i.temperature]!;
    if (tot < this.totMin_C) this.totMin_C = tot;
    if (!(tot > this.totMin_C + this.spec.lightRise_K)) return;
    this.lit(t_s);
    this.stopped(t_s, aborts.lateLight(t_s - r.fuelAt_s, this.spec.lightWithin_s));
  }

  private lostReading(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    const ngLost = Number.isNaN(this.pickup.speed_pct);
    const lost = ngLost || Number.isNaN(values[this.i.temperature]!);
    if (this.lost.update(dt_s, lost) > SENSOR_LOST_AFTER_S)
      this.abort(t_s, aborts.sensorLost(ngLost ? 'Gas producer speed' : 'Temperature', SENSOR_LOST_AFTER_S));
    return lost;
  }

  private progress(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    const r = this.record;
    const spec = this.spec;
    const ng = values[this.i.speed]!;
    const tot = values[this.i.temperature]!;
    if (this.state === 'cranking') {
      this.awaitFuel(t_s, ng, tot, values);
      return;
    }
    if (this.state === 'fuel-on') {
      this.awaitLight(t_s, dt_s, tot);
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
    if (this.state !== 'self-sustaining' || !this.staysAtIdle(t_s, dt_s, values)) return;
    this.enter(t_s, 'idle', 'Idle stable');
    this.done(t_s, Number.isNaN(r.peak_C) ? 'Idle stable' : `Idle stable. Peak ${r.peak_C.toFixed(0)}`);
  }

  private awaitFuel(t_s: number, ng: number, tot: number, values: ArrayLike<number>): void {
    const fuel = values[this.i.fuelFlow]!;
    if (fuel > FUEL_FLOWS_KG_H) this.fuelOn(t_s, ng, tot, values);
    else if (Number.isNaN(fuel)) this.lightUnseenFuel(t_s, tot);
    else if (this.spec.fuelBy === 'pilot' && this.duty.on_s === 0) this.motored(t_s);
  }

  private awaitLight(t_s: number, dt_s: number, tot: number): void {
    if (tot < this.totMin_C) this.totMin_C = tot;
    if (!(tot > this.totMin_C + this.spec.lightRise_K)) return;
    this.lit(t_s);
    this.enter(t_s, 'accelerating', 'Light-off');
    this.call(t_s, 'light-off', `Light-off, ${(t_s - this.record.starterAt_s).toFixed(1)} seconds`);
    if (dt_s >= TOO_SLOW_S) this.tooSlowToWarn(t_s, dt_s);
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

  private lit(t_s: number): void {
    this.record.lightAt_s = t_s;
    this.burns(t_s);
  }

  private burns(t_s: number): void {
    this.flameFrom_s = t_s;
    this.heat.begin(this.record, this.air, this.corridor);
  }

  private tooSlowToWarn(t_s: number, dt_s: number): void {
    const text = `One reading in ${dt_s.toFixed(1)} seconds is too slow to warn before a limit: watch the temperature`;
    this.call(t_s, 'slow-data', text);
  }

  /** Where fuel is not sensed, only the flame tells that it came: how long it took cannot be judged. */
  private lightUnseenFuel(t_s: number, tot: number): void {
    if (tot < this.totMin_C) this.totMin_C = tot;
    if (!(tot > this.totMin_C + this.spec.lightRise_K)) return;
    this.lit(t_s);
    this.enter(t_s, 'accelerating', 'Light-off, fuel not sensed');
    this.unseen(t_s, 'fuel', 'Fuel flow', 'whether the light was late cannot be judged');
  }

  /** The starter turned and no fuel came: the engine was motored. */
  private motored(t_s: number): void {
    this.record.attempt--;
    this.enter(t_s, 'before', 'Motored without fuel');
  }

  protected staysAtIdle(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    const r = this.record;
    const ng = values[this.i.speed]!;
    const [low, high] = idleWindow(this.spec, r);
    // when its time is over, an idle that is too high or just too low is said to be so, and one that comes last has the
    // time to settle: neither is a start that is too slow
    const late = t_s - r.starterAt_s > this.spec.idleWithin_s;
    const inside = late ? ng >= low - NEAR_IDLE_PCT : ng >= low && ng <= high;
    const idle_s = this.atIdle.update(dt_s, ng, inside);
    if (inside && Number.isNaN(r.idleAt_s)) r.idleAt_s = t_s;
    if (idle_s === 0 && !inside) r.idleAt_s = NaN;
    if (idle_s < this.spec.idleFor_s) return false;
    if (ng < low) this.idleIs(t_s, 'low', `${ng.toFixed(1)} % Ng; at least ${low.toFixed(1)} % expected`);
    if (ng > high)
      this.idleIs(t_s, 'high', `${ng.toFixed(1)} % Ng; at most ${high.toFixed(1)} % expected at this height`);
    return true;
  }

  private idleIs(t_s: number, where: 'low' | 'high', words: string): void {
    this.cue(t_s, `idle-${where}`, 'caution', `Idle at ${words}. Look before the run-up`, `Idle ${where}.`);
  }

  private judge(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    const spec = this.spec;
    const r = this.record;
    const ng = values[this.i.speed]!;
    const told = this.controls.judge(dt_s, ng, values);
    if (told === 'one-channel')
      this.cue(t_s, 'control-one-channel', 'caution', 'The control has one channel left', 'One control channel.');
    else if (told) return this.abort(t_s, told);
    if (this.state === 'cranking') {
      if (this.doesNotTurn(ng)) this.abort(t_s, aborts.noCrank(ng, spec.crankWithin_s));
      return;
    }
    if (this.fuelCut(t_s, dt_s, values)) return;
    if (this.state === 'fuel-on') {
      if (t_s - r.fuelAt_s > spec.lightWithin_s) this.noLight(t_s);
      return;
    }
    this.judgeDeadlines(t_s, dt_s, values, starterOn);
    if (this.starting) this.judgeAcceleration(t_s, dt_s, ng);
    if (this.starting) this.judgeHeat(t_s, dt_s, ng, values);
  }

  private noLight(t_s: number): void {
    this.abort(t_s, aborts.noLight(t_s - this.record.fuelAt_s, this.spec.lightWithin_s));
  }

  /** The fuel was shut, or has gone: told apart by whose hand it was and what was going wrong. @returns true when it was */
  private fuelCut(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    if (this.cut.update(dt_s, values[this.i.fuelFlow]! < FUEL_FLOWS_KG_H) <= ALONE_S) return false;
    const r = this.record;
    const ng = values[this.i.speed]!;
    if (this.spec.fuelBy === 'pilot')
      this.abort(t_s, values[this.i.selector]! > 0 ? aborts.died(ng) : aborts.selectorOff(ng));
    else if (Number.isNaN(this.flameFrom_s)) this.noLight(t_s);
    else if (this.predictor.Tf_C > this.heat.mildest_C - COOLED_K)
      this.abort(t_s, aborts.hot(r.peak_C, 'the control has shut the fuel'));
    else if (this.hung_s > this.spec.hungFor_s / 2) this.hung(t_s, ng);
    else this.abort(t_s, aborts.controlAbort(ng));
    return true;
  }

  private hung(t_s: number, ng: number): void {
    const { speedRate_pct_s, Tf_C } = this.predictor;
    this.abort(t_s, aborts.hung(ng, speedRate_pct_s, this.hung_s, Tf_C));
  }

  private judgeDeadlines(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    const spec = this.spec;
    const r = this.record;
    const ng = values[this.i.speed]!;
    const oilLate =
      this.i.oilPressure >= 0 && Number.isNaN(r.oilAt_s) && t_s - this.flameFrom_s > spec.oilFirstWithin_s;
    const oil = values[this.i.oilPressure]!;
    const rotorLate = spec.rotorMovingBy_pct !== undefined && Number.isNaN(r.rotorAt_s) && ng >= spec.rotorMovingBy_pct;
    const rotor = values[this.i.rotor]!;
    if (oilLate && !Number.isNaN(oil)) this.abort(t_s, aborts.noOilPressure(oil, spec.oilFirstWithin_s));
    else if (rotorLate && rotor <= ROTOR_MOVES_PCT) this.abort(t_s, aborts.rotorNotTurning(ng));
    else if (ng > spec.overspeed_pct) this.abort(t_s, aborts.overspeed(ng, spec.overspeed_pct));
    else if (
      this.held.update(dt_s, starterOn && ng > spec.starterRelease_pct + spec.starterReleaseMargin_pct) > ALONE_S
    )
      this.abort(t_s, aborts.starterNotReleasing(ng));
    else if (t_s - r.starterAt_s > spec.idleWithin_s && Number.isNaN(r.idleAt_s))
      this.abort(t_s, aborts.tooSlow(ng, spec.idleWithin_s, this.heat.swings));
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

  override tooHot(t_s: number, peak_C: number, because: string): boolean {
    const { Tf_C } = this.predictor;
    return this.overLimit(t_s, peak_C - Tf_C > LEAP_K ? aborts.leapt(Tf_C, peak_C) : aborts.hot(peak_C, because));
  }

  private judgeHeat(t_s: number, dt_s: number, ng: number, values: ArrayLike<number>): void {
    const found = this.heat.judge(t_s, dt_s, ng, values[this.i.temperature]!, values[this.i.fuelFlow]!);
    if (!found) return;
    if (found.kind === 'hung') this.hung(t_s, ng);
    else if (found.kind === 'stop') this.abort(t_s, found.call);
    else {
      // a reading that is not believed takes the forecast with it
      this.doubt ??= found.doubt;
      this.cue(t_s, found.code, 'caution', found.text, found.say);
    }
  }
}
