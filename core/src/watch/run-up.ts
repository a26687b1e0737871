import type { Phase, RunUpWatch, TypeFile } from '../aircraft/index.ts';
import type { EventSink } from './events.ts';
import type { Guard } from './limit-windows.ts';

/** The running aircraft between idle and flight: selectors moved, rotor in its window by a deadline. */
export class RunUp {
  /** idle, run-up or flight; what it was last while an engine starts */
  phase: Extract<Phase, 'idle' | 'run-up' | 'flight'> = 'idle';
  readonly columns: readonly number[];
  private since_s = NaN;
  private steady_s = 0;
  private lateCalled = false;
  private readonly selectors: readonly number[];
  private readonly iRotor: number;
  private readonly spec: RunUpWatch;
  private readonly emit: EventSink;

  constructor(type: TypeFile, spec: RunUpWatch, emit: EventSink) {
    this.spec = spec;
    this.emit = emit;
    const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
    this.selectors = spec.selectors.map(index);
    this.iRotor = index(spec.rotor);
    this.columns = [...this.selectors, this.iRotor];
  }

  /** The record begins with the aircraft at work. */
  found(values: ArrayLike<number>): void {
    this.phase = this.atFlight(values) ? 'flight' : 'idle';
  }

  stop(): void {
    this.phase = 'idle';
  }

  /** One frame with an engine running and none starting. @returns true when the phase has changed */
  step(t_s: number, dt_s: number, values: ArrayLike<number>): boolean {
    const { phase } = this;
    if (phase === 'idle') {
      if (this.atFlight(values)) {
        this.phase = 'run-up';
        this.since_s = t_s;
        this.steady_s = 0;
        this.lateCalled = false;
      }
    } else if (this.selectors.some((i) => values[i]! < this.spec.idleBelow)) this.phase = 'idle';
    else if (phase === 'run-up') this.follow(t_s, dt_s, values[this.iRotor]!);
    return this.phase !== phase;
  }

  /** Whether a replay must look at every row up to this time. */
  needsCloseLook(until_s: number): boolean {
    return this.phase === 'run-up' && (this.steady_s > 0 || until_s - this.since_s > this.spec.within_s);
  }

  /** Readings that can end the present phase when they leave these ranges. */
  guards(): Guard[] {
    const { flightFrom, idleBelow, rotor_pct } = this.spec;
    if (this.phase === 'idle') return this.selectors.map((index) => ({ index, low: -Infinity, high: flightFrom }));
    const atFlight = this.selectors.map((index) => ({ index, low: idleBelow, high: Infinity }));
    return this.phase === 'flight'
      ? atFlight
      : [...atFlight, { index: this.iRotor, low: -Infinity, high: rotor_pct[0] }];
  }

  private atFlight(values: ArrayLike<number>): boolean {
    for (const i of this.selectors) if (!(values[i]! >= this.spec.flightFrom)) return false;
    return true;
  }

  private follow(t_s: number, dt_s: number, nr: number): void {
    const { spec } = this;
    const inside = nr >= spec.rotor_pct[0] && nr <= spec.rotor_pct[1];
    this.steady_s = inside ? this.steady_s + dt_s : 0;
    const took_s = t_s - this.since_s;
    if (this.steady_s >= spec.steadyFor_s) {
      this.phase = 'flight';
      const text = `Rotor ${nr.toFixed(0)} percent, steady`;
      this.emit({ kind: 'cue', t_s, code: 'run-up-done', severity: 'call', text, say: text });
      this.emit({ kind: 'run-up-done', t_s, watch: spec.id, took_s });
    } else if (took_s > spec.within_s && !this.lateCalled) {
      this.lateCalled = true;
      this.emit({
        kind: 'cue',
        t_s,
        code: 'run-up-late',
        severity: 'caution',
        text: `Rotor ${nr.toFixed(0)} % ${spec.within_s} s after flight was selected; ${spec.rotor_pct[0]} to ${spec.rotor_pct[1]} % expected`,
        say: 'Rotor not at flight speed.',
      });
    }
  }
}
