import type { PistonStart, TypeFile } from '../aircraft/index.ts';
import { higherOf, lowerOf } from '../statistics/index.ts';
import * as aborts from './abort-calls.ts';
import type { StartProfile } from './start-profile.ts';
import type { EventSink } from './events.ts';
import { ALONE_S, Lasting } from './lasting.ts';
import { SeenFor } from './seen-for.ts';
import type { Milestone } from './milestone.ts';
import { Pickup } from './pickup.ts';
import { StartMachine } from './start-machine.ts';
import { StuckReading } from './stuck-reading.ts';

/** an engine turning faster than this is no new attempt */
const STILL_PCT = 3;
const DIES_BELOW_PCT = 12;
const DIED_FOR_S = 1;
const SENSOR_LOST_AFTER_S = 0.5;
const STARTER_HANGS_FOR_S = 1.5;
const CHARGES_FOR_S = 2;
const RATE_LAG_S = 0.1;
/** an engine that would pass its limit so soon at this rate races; so much sooner it cannot be caught any more */
const RACES_IN_S = 0.6;
const RUNS_AWAY_IN_S = 0.25;
const RACES_FROM_PCT = 30;
const RUNS_AWAY_FROM_PCT = 60;
/** a tachometer stands still while the oil pressure goes so far, bar */
const STUCK_MOVES_BAR = 0.4;
const SHUT = 0.05;
/** an engine that runs down so soon after it fired had too little prime, or too much */
const FLOODS_OUT_WITHIN_S = 8;
const DRY_OR_FLOODED = 'too little prime, or flooded';
const FLOODED = 'fuel reached it twice, so it is flooded';
/** the starter let go, and the engine never fired */
const OFF_UNFIRED_S = 1.5;

/** The start of a piston engine: it cranks, fires, runs by itself, has oil and charges its battery again. */
export class PistonStartMachine extends StartMachine {
  readonly spec: PistonStart;
  private readonly iOil: number;
  private readonly iAmps: number;
  private readonly iMagnetos: number;
  private readonly iMixture: number;
  private readonly iFuelValve: number;
  /** it fires since then; the record says when only if that was seen */
  private firesFrom_s = NaN;
  private fast_s = 0;
  private slow_s = 0;
  private readonly lost = new Lasting();
  private hangs_s = 0;
  private readonly charges = new SeenFor();
  private readonly atIdle = new SeenFor();
  private notCharging = false;
  private oilUnseen = false;
  private cranked_s = 0;
  /** starts in a row that did not fire though fuel could reach the engine */
  private unfired = 0;
  private readonly pickup = new Pickup();
  private readonly magnetosOff = new Lasting();
  private rate_pct_s = 0;
  private racing = false;
  private readonly stuck = new StuckReading(0);

  constructor(type: TypeFile, spec: PistonStart, emit: EventSink) {
    super(type, spec, emit);
    this.spec = spec;
    const index = (id: string | undefined): number => type.channels.findIndex((c) => c.id === id);
    this.iMixture = index(spec.channels.mixture);
    this.iFuelValve = index(spec.channels.fuelValve);
    this.iOil = index(spec.channels.oilPressure);
    this.iAmps = index(spec.channels.batteryAmps);
    this.iMagnetos = index(spec.channels.magnetos);
  }

  milestones(): Milestone[] {
    const { spec, record: r } = this;
    const due = (from_s: number, within_s: number): number | null =>
      Number.isFinite(from_s + within_s) ? from_s + within_s : null;
    return [
      {
        id: 'fires',
        title: 'Fires',
        words: `within ${spec.firesWithin_s} s of cranking`,
        due_s: due(r.starterAt_s, spec.firesWithin_s),
        met: Number.isFinite(this.firesFrom_s),
      },
      {
        id: 'runs',
        title: 'Runs by itself',
        words: `above ${spec.runsAbove_pct} %, starter off`,
        due_s: null,
        met: Number.isFinite(r.selfSustainingAt_s),
      },
      {
        id: 'oil',
        title: 'Oil pressure',
        words: `${spec.oilFirst_bar} bar within ${spec.oilFirstWithin_s} s of firing`,
        due_s: due(this.firesFrom_s, spec.oilFirstWithin_s),
        met: Number.isFinite(r.oilAt_s),
      },
      {
        id: 'charging',
        title: 'Charging',
        words: `within ${spec.chargingWithin_s} s of running`,
        due_s: due(r.selfSustainingAt_s, spec.chargingWithin_s),
        met: Number.isFinite(r.chargingAt_s),
      },
      {
        id: 'idle',
        title: 'Idle stable',
        words: `${spec.idle_pct[0]} to ${spec.idle_pct[1]} % for ${spec.idleFor_s} s`,
        due_s: due(r.starterAt_s, spec.idleWithin_s),
        met: this.state === 'idle',
      },
    ];
  }

  profile(): StartProfile {
    return { totMax_C: [], totMin_C: [], paceMin_pct_s: [] };
  }

  protected begins(values: ArrayLike<number>, fromRest: boolean): boolean {
    return !(values[this.iSpeed]! > (fromRest ? this.spec.firesAbove_pct : STILL_PCT));
  }

  protected shutDown(values: ArrayLike<number>): boolean {
    return values[this.iSpeed]! < this.spec.stoppedBelow_pct;
  }

  protected reset(): void {
    this.fast_s = 0;
    this.firesFrom_s = NaN;
    this.slow_s = 0;
    this.lost.reset();
    this.hangs_s = 0;
    this.charges.reset();
    this.atIdle.reset();
    this.cranked_s = 0;
    this.pickup.reset();
    this.magnetosOff.reset();
    this.rate_pct_s = 0;
    this.racing = false;
    this.stuck.reset();
    this.notCharging = false;
    this.oilUnseen = false;
  }

  protected sample(_t_s: number, dt_s: number, values: ArrayLike<number>): void {
    const r = this.record;
    const volts = values[this.iVolts]!;
    r.voltsMin_V = lowerOf(r.voltsMin_V, volts);
    this.pickup.read(dt_s, values[this.iSpeed]!);
    const { speed_pct, rate_pct_s, step_s } = this.pickup;
    r.speedMax_pct = higherOf(r.speedMax_pct, speed_pct);
    if (Number.isFinite(rate_pct_s))
      this.rate_pct_s += (step_s / (step_s + RATE_LAG_S)) * (rate_pct_s - this.rate_pct_s);
  }

  protected isUnderWay(values: ArrayLike<number>, starterOn: boolean): boolean {
    return values[this.iSpeed]! > (starterOn ? this.spec.firesAbove_pct : this.spec.stoppedBelow_pct);
  }

  protected foundUnderWay(t_s: number): void {
    this.firesFrom_s = t_s;
    this.enter(t_s, 'firing', 'Found under way');
  }

  protected isBlind(): boolean {
    return Number.isNaN(this.pickup.speed_pct);
  }

  protected follow(t_s: number, dt_s: number, values: ArrayLike<number>, starterOn: boolean): void {
    if (this.state === 'aborted') return;
    const speed = this.pickup.speed_pct;
    const lost = Number.isNaN(speed);
    if (this.lost.update(dt_s, lost) > SENSOR_LOST_AFTER_S)
      this.abort(t_s, aborts.sensorLost('Engine speed', SENSOR_LOST_AFTER_S));
    if (lost) return;
    if (starterOn) this.cranked_s += dt_s;
    if (this.state === 'cranking') this.crank(t_s, speed, values, starterOn);
    else this.run(t_s, dt_s, speed, values, starterOn);
  }

  private crank(t_s: number, speed: number, values: ArrayLike<number>, starterOn: boolean): void {
    const { spec, record: r } = this;
    if (speed > spec.firesAbove_pct) {
      r.lightAt_s = t_s;
      this.firesFrom_s = t_s;
      this.unfired = 0;
      this.enter(t_s, 'firing', 'Fires');
      this.call(t_s, 'fires', `Fires, ${(t_s - r.starterAt_s).toFixed(1)} seconds`);
      return;
    }
    const since_s = t_s - r.starterAt_s;
    if (starterOn && this.doesNotTurn(speed)) this.abort(t_s, aborts.turnsTooSlowly(speed, spec.crankWithin_s));
    else if (this.cranked_s > spec.firesWithin_s || (!starterOn && this.duty.on_s === 0 && since_s > OFF_UNFIRED_S))
      this.didNotFire(t_s, values);
  }

  /** No reading tells a dry engine from a flooded one; one that was primed again and stays silent has had enough. */
  private didNotFire(t_s: number, values: ArrayLike<number>): void {
    const closed = this.noFuel(values);
    if (closed === null) this.unfired++;
    const because = closed ?? (this.unfired > 1 ? FLOODED : DRY_OR_FLOODED);
    this.abort(t_s, aborts.doesNotFire(this.cranked_s, because));
  }

  /** Why no fuel can reach it, null where it can or nobody knows. */
  private noFuel(values: ArrayLike<number>): string | null {
    if (values[this.iFuelValve]! < SHUT) return 'the fuel valve is shut';
    return values[this.iMixture]! < SHUT ? 'the mixture is at cut-off' : null;
  }

  private run(t_s: number, dt_s: number, speed: number, values: ArrayLike<number>, starterOn: boolean): void {
    const { spec, record: r } = this;
    const oil = values[this.iOil]!;
    if (Number.isNaN(r.oilAt_s) && oil >= spec.oilFirst_bar) {
      r.oilAt_s = t_s;
      this.call(t_s, 'oil', 'Oil pressure up');
    }
    if (this.state === 'firing') {
      this.fast_s = !starterOn && speed > spec.runsAbove_pct ? this.fast_s + dt_s : 0;
      if (this.fast_s >= spec.runsFor_s) {
        r.selfSustainingAt_s = t_s;
        r.starterOffAt_s = t_s;
        this.enter(t_s, 'running', 'Runs by itself');
        this.call(t_s, 'runs', `Running at ${speed.toFixed(0)} percent`);
      }
    } else this.settle(t_s, dt_s, speed, values);
    if (this.starting) this.judge(t_s, dt_s, speed, oil, values, starterOn);
    if (this.starting) this.judgeSpeed(t_s, dt_s, speed, oil);
  }

  protected staysAtIdle(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    const { spec, record: r } = this;
    const speed = values[this.iSpeed]!;
    const inside = speed >= spec.idle_pct[0] && speed <= spec.idle_pct[1];
    const idle_s = this.atIdle.update(dt_s, speed, inside);
    if (inside && Number.isNaN(r.idleAt_s)) r.idleAt_s = t_s;
    if (idle_s === 0 && !inside) r.idleAt_s = NaN;
    return idle_s >= spec.idleFor_s;
  }

  private settle(t_s: number, dt_s: number, speed: number, values: ArrayLike<number>): void {
    const { spec, record: r } = this;
    if (this.state === 'running' && !Number.isNaN(r.oilAt_s)) this.enter(t_s, 'oil-up', 'Oil pressure up');
    const amps = values[this.iAmps]!;
    const charges_s = this.charges.update(dt_s, amps, amps > spec.chargingAbove_A);
    if (Number.isNaN(r.chargingAt_s) && charges_s >= CHARGES_FOR_S) {
      r.chargingAt_s = t_s;
      this.call(t_s, 'charging', 'Charging');
    }
    if (this.state === 'oil-up' && !Number.isNaN(r.chargingAt_s)) this.enter(t_s, 'charging', 'Charging');
    const idles = this.staysAtIdle(t_s, dt_s, values);
    const chargeSettled = this.state === 'charging' || (this.state === 'oil-up' && this.notCharging);
    if (!chargeSettled || !idles) return;
    this.enter(t_s, 'idle', 'Idle stable');
    this.done(t_s, `Idle stable at ${speed.toFixed(0)} percent`);
  }

  private judge(
    t_s: number,
    dt_s: number,
    speed: number,
    oil: number,
    values: ArrayLike<number>,
    starterOn: boolean,
  ): void {
    const { spec, record: r } = this;
    this.hangs_s = starterOn && speed > spec.starterRelease_pct ? this.hangs_s + dt_s : 0;
    this.slow_s = speed < DIES_BELOW_PCT && !starterOn ? this.slow_s + dt_s : 0;
    if (speed > spec.overspeed_pct) this.abort(t_s, aborts.overspeed(speed, spec.overspeed_pct, 'engine'));
    else if (this.magnetosOff.update(dt_s, values[this.iMagnetos] === 0) > ALONE_S)
      this.abort(t_s, aborts.magnetosOff(speed));
    else if (this.slow_s > DIED_FOR_S)
      this.abort(
        t_s,
        aborts.died(speed, 'engine', t_s - this.firesFrom_s < FLOODS_OUT_WITHIN_S ? DRY_OR_FLOODED : null),
      );
    else if (this.hangs_s > STARTER_HANGS_FOR_S) this.abort(t_s, aborts.engagedTooFast(speed));
    else if (Number.isNaN(r.oilAt_s) && t_s - this.firesFrom_s > spec.oilFirstWithin_s && !Number.isNaN(oil))
      this.abort(t_s, aborts.noOilPressure(oil, spec.oilFirstWithin_s, 'firing'));
    else if (t_s - r.starterAt_s > spec.idleWithin_s && Number.isNaN(r.idleAt_s))
      this.abort(t_s, aborts.notIdling(speed, spec.idleWithin_s));
    if (this.starting) this.tellUnseen(t_s, oil, values);
  }

  /** An engine that races is told of before it is too fast, and a tachometer that stands is not believed. */
  private judgeSpeed(t_s: number, dt_s: number, speed: number, oil: number): void {
    const { overspeed_pct } = this.spec;
    const rate = this.rate_pct_s;
    if (speed > RUNS_AWAY_FROM_PCT && speed + rate * RUNS_AWAY_IN_S > overspeed_pct)
      this.abort(t_s, aborts.runsAway(speed, rate, overspeed_pct));
    else if (!this.racing && speed > RACES_FROM_PCT && speed + rate * RACES_IN_S > overspeed_pct) {
      this.racing = true;
      const text = `Engine at ${speed.toFixed(0)} %, ${rate.toFixed(0)} % a second faster: close the throttle`;
      this.cue(t_s, 'racing', 'caution', text, 'Throttle. Engine races.');
    }
    if (this.doubt !== null || !this.stuck.update(dt_s, speed, oil, STUCK_MOVES_BAR)) return;
    this.doubt = `Engine speed has stood at ${speed.toFixed(1)} % while the oil pressure moved`;
    this.cue(t_s, 'reading-stuck', 'caution', `${this.doubt}: it may be stuck. Judge by ear`, 'Speed may be stuck.');
  }

  /** What cannot be read, or has not come, is told once. */
  private tellUnseen(t_s: number, oil: number, values: ArrayLike<number>): void {
    const { spec, record: r } = this;
    if (Number.isNaN(oil) && !this.oilUnseen && t_s - this.firesFrom_s > spec.oilFirstWithin_s) {
      this.oilUnseen = true;
      const text = `Oil pressure is unknown; ${spec.oilFirst_bar} bar are wanted by now. Look and decide`;
      this.cue(t_s, 'unseen-oil', 'caution', text, 'Oil pressure unknown.');
    }
    if (!this.notCharging && t_s - r.selfSustainingAt_s > spec.chargingWithin_s && Number.isNaN(r.chargingAt_s)) {
      this.notCharging = true;
      const amps = values[this.iAmps]!;
      if (Number.isNaN(amps)) this.chargeUnseen(t_s);
      else {
        const text = `The battery is not charged ${spec.chargingWithin_s} s after the start, current ${amps.toFixed(0)} A`;
        this.cue(t_s, 'not-charging', 'caution', text, 'Not charging.');
      }
    }
  }

  private chargeUnseen(t_s: number): void {
    const text = 'Whether the battery is charged is unknown: its current is not read. Look at the ammeter';
    this.cue(t_s, 'unseen-charge', 'caution', text, 'Charge unknown.');
  }
}
