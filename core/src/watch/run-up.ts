import type { Phase, RunUpWatch, TypeFile } from '../aircraft/index.ts';
import type { EventSink } from './events.ts';
import type { Guard } from './limit-windows.ts';
import { Lasting } from './lasting.ts';
import { HOLE_S } from './seen.ts';
import { SeenFor } from './seen-for.ts';

/** The running aircraft between idle and flight: selectors moved, torques within bounds, rotor in its window by a deadline. */
export class RunUp {
  /** idle, run-up or flight; what it was last while an engine starts */
  phase: Extract<Phase, 'idle' | 'run-up' | 'flight'> = 'idle';
  readonly columns: readonly number[];
  private since_s = NaN;
  private readonly steady = new SeenFor();
  private readonly unread = new Lasting();
  private lateCalled = false;
  private torqueCalled = false;
  private torqueMax_pct = 0;
  private splitMax_pct = 0;
  private rotorMax_pct = 0;
  private readonly selectors: readonly number[];
  private readonly torques: readonly number[];
  private readonly iRotor: number;
  private readonly iNeeded: number;
  private readonly needs: string;
  private readonly spec: RunUpWatch;
  private readonly emit: EventSink;

  constructor(type: TypeFile, spec: RunUpWatch, emit: EventSink) {
    this.spec = spec;
    this.emit = emit;
    const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
    this.selectors = spec.selectors.map(index);
    this.torques = (spec.torque?.channels ?? []).map(index);
    this.iRotor = index(spec.rotor);
    this.iNeeded = spec.flightNeeds ? index(spec.flightNeeds.channel) : -1;
    this.needs = type.channels[this.iNeeded]?.label ?? '';
    this.columns = [...this.selectors, ...this.torques, this.iRotor, ...(this.iNeeded < 0 ? [] : [this.iNeeded])];
  }

  /** The record begins with the aircraft at work. */
  found(values: ArrayLike<number>): void {
    this.phase = !this.atFlight(values) ? 'idle' : this.hasWhatFlightNeeds(values) ? 'flight' : 'run-up';
    this.since_s = NaN;
  }

  stop(): void {
    this.phase = 'idle';
  }

  /** One frame with an engine running and none starting. @returns true when the phase has changed */
  step(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    const { phase } = this;
    if (phase === 'idle') {
      if (this.atFlight(values)) this.begin(t_s, values);
    } else if (this.selectors.some((i) => values[i]! < this.spec.idleBelow)) this.phase = 'idle';
    else if (phase === 'run-up') this.follow(t_s, dt_s, values);
    else if (this.lacksWhatFlightNeeds(values)) this.begin(t_s, values);
    return this.phase !== phase;
  }

  /** Whether a replay must look at every row up to this time. */
  needsCloseLook(until_s: number): boolean {
    if (this.phase !== 'run-up' || Number.isNaN(this.since_s)) return false;
    return this.torques.length > 0 || this.steady.seconds > 0 || until_s - this.since_s > this.spec.within_s;
  }

  /** Readings that can end the present phase when they leave these ranges. */
  guards(): Guard[] {
    const { flightFrom, idleBelow, rotor_pct, flightNeeds } = this.spec;
    if (this.phase === 'idle') return this.selectors.map((index) => ({ index, low: -Infinity, high: flightFrom }));
    const atFlight = this.selectors.map((index) => ({ index, low: idleBelow, high: Infinity }));
    const needed = (low: number, high: number): Guard[] => (flightNeeds ? [{ index: this.iNeeded, low, high }] : []);
    if (this.phase === 'flight') return [...atFlight, ...needed(flightNeeds?.atLeast ?? 0, Infinity)];
    return Number.isNaN(this.since_s)
      ? [...atFlight, ...needed(-Infinity, (flightNeeds?.atLeast ?? 0) - 0.01)]
      : [...atFlight, ...needed(flightNeeds?.atLeast ?? 0, Infinity), { index: this.iRotor, low: -Infinity, high: rotor_pct[0] }]; // oxfmt-ignore
  }

  private begin(t_s: number, values: ArrayLike<number>): void {
    this.phase = 'run-up';
    this.since_s = this.hasWhatFlightNeeds(values) ? t_s : NaN;
    this.steady.reset();
    this.unread.reset();
    this.lateCalled = false;
    this.torqueCalled = false;
    this.torqueMax_pct = this.splitMax_pct = this.rotorMax_pct = 0;
  }

  private atFlight(values: ArrayLike<number>): boolean {
    for (const i of this.selectors) if (!(values[i]! >= this.spec.flightFrom)) return false;
    return true;
  }

  private hasWhatFlightNeeds(values: ArrayLike<number>): boolean {
    return this.iNeeded < 0 || values[this.iNeeded]! >= this.spec.flightNeeds!.atLeast;
  }

  /** A reading that is missing says neither. */
  private lacksWhatFlightNeeds(values: ArrayLike<number>): boolean {
    return this.iNeeded >= 0 && values[this.iNeeded]! < this.spec.flightNeeds!.atLeast;
  }

  private follow(t_s: number, dt_s: number, values: ArrayLike<number>): void {
    const { spec } = this;
    if (this.lacksWhatFlightNeeds(values)) {
      this.since_s = NaN;
      this.steady.reset();
      return;
    }
    const unknown = !this.hasWhatFlightNeeds(values);
    if (Number.isNaN(this.since_s)) {
      if (unknown) return;
      this.begin(t_s, values);
    }
    const nr = values[this.iRotor]!;
    if (nr > this.rotorMax_pct) this.rotorMax_pct = nr;
    this.watchTorque(t_s, values);
    const inside = nr >= spec.rotor_pct[0] && nr <= spec.rotor_pct[1];
    const steady_s = this.steady.update(dt_s, unknown ? NaN : nr, inside);
    const took_s = t_s - this.since_s;
    if (inside && !unknown && steady_s >= spec.steadyFor_s && this.isMatched(values)) {
      this.phase = 'flight';
      const text = `Rotor ${nr.toFixed(0)} percent, steady`;
      this.emit({ kind: 'cue', t_s, code: 'run-up-done', severity: 'call', text, say: text });
      const { torqueMax_pct, splitMax_pct, rotorMax_pct } = this;
      this.emit({ kind: 'run-up-done', t_s, watch: spec.id, took_s, torqueMax_pct, splitMax_pct, rotorMax_pct });
    } else if (took_s > spec.within_s && !this.lateCalled) this.late(t_s, dt_s, values, inside);
  }

  /** What is missing when its time is over; a rotor that only has to stay where it is lacks nothing yet. */
  private late(t_s: number, dt_s: number, values: ArrayLike<number>, inside: boolean): void {
    const { within_s, rotor_pct, torque } = this.spec;
    const after = `${within_s} s after flight was selected`;
    const unread = this.unreadOf(values, inside);
    const unread_s = this.unread.update(dt_s, unread !== null);
    if (unread !== null) {
      // one frame of a poor line: the next one may have it
      if (unread_s <= HOLE_S) return;
      this.caution(t_s, 'late', `${unread} is not read ${after}: look and decide`, `${unread} unknown.`);
    } else if (!inside) {
      const rotor = `Rotor ${values[this.iRotor]!.toFixed(0)} % ${after}; ${rotor_pct[0]} to ${rotor_pct[1]} % expected`;
      this.caution(t_s, 'late', rotor, 'Rotor not at flight speed.');
    } else if (!this.isMatched(values)) {
      const split = `Torques still ${this.splitOf(values).toFixed(0)} % apart ${after}; ${torque!.split_pct} % at most expected`;
      this.caution(t_s, 'late', split, 'Torque split.');
    } else return;
    this.lateCalled = true;
  }

  /** What this frame does not tell, of what a run-up is judged by; null where it tells all of it. */
  private unreadOf(values: ArrayLike<number>, inside: boolean): string | null {
    if (!this.hasWhatFlightNeeds(values)) return this.needs;
    if (Number.isNaN(values[this.iRotor]!)) return 'Rotor';
    return inside && Number.isNaN(this.splitOf(values)) ? 'Torque' : null;
  }

  /** Torque above what a run-up on the ground may take is called once; the split is judged when the rotor is steady. */
  private watchTorque(t_s: number, values: ArrayLike<number>): void {
    const { torque } = this.spec;
    if (!torque) return;
    for (const i of this.torques) if (values[i]! > this.torqueMax_pct) this.torqueMax_pct = values[i]!;
    this.splitMax_pct = Math.max(this.splitMax_pct, this.splitOf(values) || 0);
    if (this.torqueMax_pct <= torque.max_pct || this.torqueCalled) return;
    this.torqueCalled = true;
    const text = `Torque ${this.torqueMax_pct.toFixed(0)} % in the run-up; at most ${torque.max_pct} %`;
    this.caution(t_s, 'torque', text, 'Torque.');
  }

  private splitOf(values: ArrayLike<number>): number {
    let [low, high] = [Infinity, -Infinity];
    for (const i of this.torques) {
      if (Number.isNaN(values[i]!)) return NaN;
      low = Math.min(low, values[i]!);
      high = Math.max(high, values[i]!);
    }
    return high - low;
  }

  private isMatched(values: ArrayLike<number>): boolean {
    const most = this.spec.torque?.split_pct;
    return most === undefined || this.splitOf(values) <= most;
  }

  private caution(t_s: number, code: 'late' | 'torque', text: string, say: string): void {
    this.emit({ kind: 'cue', t_s, code: `run-up-${code}`, severity: 'caution', text, say });
  }
}
