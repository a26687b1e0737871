import { type LimitBand, type Phase, type WatchedType } from '../aircraft/index.ts';
import * as aborts from './abort-calls.ts';
import type { Stay } from './band-monitor.ts';
import type { Corridor } from './corridor.ts';
import type { EventSink } from './events.ts';
import type { Trace } from '../trace/index.ts';
import { GAP_S, type Guard, LimitWindows } from './limit-windows.ts';
import { StartMachine } from './start-machine.ts';
import { WatchedLimit } from './watched-limit.ts';

/** no frame for longer than this, and every reading is unknown */
export const SOURCE_LOST_AFTER_S = 0.8;
const RUNNING_NG_PCT = 55;
/** rows looked at together in a replay; shorter than a gap at any usual rate */
const BLOCK_ROWS = 96;
/** rows taken one by one before blocks are tried again */
const CLOSE_ROWS = 8;

/**
 * The watcher of one aircraft: limits by phase, the engine start, the run-up, and whether there is data at all.
 * It is fed frames in order and reports through `onEvent`; it keeps no clock of its own.
 */
export class Watch {
  readonly start: StartMachine;
  phase: Phase = 'off';
  sourceLost = false;
  lastFrame_s = NaN;
  runUpSince_s = NaN;

  private readonly type: WatchedType;
  private readonly limits: WatchedLimit[];
  private readonly onEvent: EventSink;
  private active: WatchedLimit[] = [];
  private windows = new LimitWindows([], []);
  /** columns that the start and the phases read, and those together with the limits in force */
  private readonly always: readonly number[];
  private needed = new Int32Array(0);
  private readonly iSelector: number;
  private readonly iRotor: number;
  private readonly iSpeed: number;
  private readonly iFuel: number;
  private readonly iTemperature: number;
  private readonly iVolts: number;
  private readonly iStarter: number;
  private steady_s = 0;
  private runUpLateCalled = false;
  private loose = false;
  private readonly fixedPhase: boolean;

  /** @param fixedPhase keeps one phase for the whole record (a CSV of one phase) */
  constructor(type: WatchedType, corridor: Corridor | null, onEvent: EventSink, fixedPhase?: Phase) {
    this.type = type;
    this.onEvent = onEvent;
    const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
    this.limits = type.limits.map(
      (limit) =>
        new WatchedLimit(type, limit, (watched, edge, band, t_s, stay) => this.atEdge(watched, edge, band, t_s, stay)),
    );
    this.start = new StartMachine(type, type.startWatches[0]!, corridor, onEvent);
    this.iSelector = index(type.runUpWatch.selector);
    this.iRotor = index(type.runUpWatch.rotor);
    this.iSpeed = index(type.startWatches[0]!.channels.speed);
    this.iFuel = index(type.startWatches[0]!.channels.fuelFlow);
    this.iTemperature = index(type.startWatches[0]!.channels.temperature);
    this.iVolts = index(type.startWatches[0]!.channels.volts);
    this.iStarter = index(type.startWatches[0]!.channels.starterAmps);
    this.always = [...Object.values(type.startWatches[0]!.channels).map(index), this.iSelector, this.iRotor];
    this.fixedPhase = fixedPhase !== undefined;
    this.phase = fixedPhase ?? 'off';
    this.selectLimits();
  }

  /** One frame. Time must go forward; a frame that does not is ignored. @param values channel order of the type, NaN where lost */
  step(t_s: number, values: Float64Array): void {
    const last = this.lastFrame_s;
    const dt_s = t_s - last;
    if (!(dt_s > 0)) {
      if (!Number.isNaN(last)) return;
      this.first(values, t_s);
    }
    this.lastFrame_s = t_s;
    if (this.sourceLost) this.sourceBack(t_s);

    this.windows.step(last, t_s, values);
    const machine = this.start;
    if (this.phase === 'start' || (this.phase === 'off' && machine.wakes(values)) || this.loose) {
      machine.step(t_s, Number.isNaN(dt_s) ? 0 : dt_s, values);
      this.loose = machine.starterOn_s > 0;
    } else if (this.phase === 'off') machine.rest(values);
    if (!this.fixedPhase) this.followPhase(t_s, Number.isNaN(dt_s) ? 0 : dt_s, values);
  }

  /** A recorded stretch, frame by frame where anything could happen and in blocks where nothing can. Reports what `step` would. */
  replay(trace: Trace): void {
    const { t_s, columns } = trace;
    const width = columns.length;
    const close = new Float64Array(CLOSE_ROWS * width);
    const frames = Array.from({ length: CLOSE_ROWS }, (_, r) => close.subarray(r * width, (r + 1) * width));
    for (let i = 0; i < t_s.length;) {
      const end = this.quietRows(trace, i, Math.min(i + BLOCK_ROWS, t_s.length));
      if (end > i) {
        this.windows.skip(trace, i, end);
        this.lastFrame_s = t_s[end - 1]!;
        if (this.phase === 'off') {
          this.gather(columns, end - 1, end, close);
          this.start.rest(frames[0]!);
        }
        i = end;
        continue;
      }
      const stop = Math.min(i + CLOSE_ROWS, t_s.length);
      this.gather(columns, i, stop, close);
      const { needed } = this;
      // another phase reads other columns: its rows are gathered anew
      for (let r = 0; i < stop && this.needed === needed; r++, i++) this.step(t_s[i]!, frames[r]!);
    }
  }

  /** Copies rows, column by column, into frames that lie one after the other: what `step` reads in this phase. */
  private gather(columns: readonly Float64Array[], from: number, to: number, frames: Float64Array): void {
    const width = columns.length;
    for (let k = 0; k < this.needed.length; k++) {
      const c = this.needed[k]!;
      const column = columns[c]!;
      for (let i = from, at = c; i < to; i++, at += width) frames[at] = column[i]!;
    }
  }

  /** End of the rows from `from` in which neither a limit nor the phase nor a start can change. */
  private quietRows(trace: Trace, from: number, to: number): number {
    const end_s = trace.t_s[to - 1]!;
    if (this.phase === 'start' || this.loose || this.sourceLost || !(end_s - this.lastFrame_s <= GAP_S)) return from;
    if (this.phase === 'run-up' && (this.steady_s > 0 || end_s - this.runUpSince_s > this.type.runUpWatch.within_s))
      return from;
    return this.windows.quietUntil(trace, from, to);
  }

  /** Readings that can end the present phase when they leave these ranges. */
  private guards(): Guard[] {
    const { flightPosition, rotor_pct } = this.type.runUpWatch;
    const running = { index: this.iSpeed, low: RUNNING_NG_PCT, high: Infinity };
    const inFlight = { index: this.iSelector, low: flightPosition - 0.5, high: Infinity };
    switch (this.phase) {
      case 'off':
        return [{ index: this.iStarter, low: -Infinity, high: this.start.spec.starterOn_A }];
      case 'start':
        return [];
      case 'idle':
        return [running, { index: this.iSelector, low: -Infinity, high: flightPosition }];
      case 'run-up':
        return [running, inFlight, { index: this.iRotor, low: -Infinity, high: rotor_pct[0] }];
      case 'flight':
        return [running, inFlight];
    }
  }

  /** Tells the watch what time it is while no frame comes. */
  clock(t_s: number): void {
    if (this.sourceLost || Number.isNaN(this.lastFrame_s) || t_s - this.lastFrame_s <= SOURCE_LOST_AFTER_S) return;
    this.sourceLost = true;
    const text = this.start.starting
      ? 'No data from the aircraft during the start. Every reading is unknown: decide by the cockpit instruments'
      : 'No data from the aircraft. Every reading is unknown';
    this.onEvent({ kind: 'cue', t_s, code: 'source-lost', severity: 'warning', text, say: 'Data lost.' });
  }

  /** The pilot's own call to stop a start. */
  pilotAbort(t_s: number): void {
    this.start.abort(t_s, aborts.ownCall());
  }

  /** Ends the record: every stay that is open is written up. */
  finish(t_s: number): void {
    for (const watched of this.active) if (watched.monitor.started) watched.monitor.close(t_s);
  }

  /** Time in the worst open band of a channel and what is left of it, for the room strip. */
  roomOf(channel: string): { band: LimitBand; remaining_s: number } | null {
    let found: { band: LimitBand; remaining_s: number } | null = null;
    for (const watched of this.active) {
      if (watched.limit.channel !== channel || !watched.monitor.active) continue;
      for (const stay of watched.monitor.openStays()) {
        const band = watched.limit.bands.find((b) => b.id === stay.band)!;
        found = { band, remaining_s: watched.monitor.usage(band.id).remaining_s };
      }
    }
    return found;
  }

  private first(values: Float64Array, t_s: number): void {
    if (this.fixedPhase || !(values[this.iSpeed]! > RUNNING_NG_PCT)) return;
    this.setPhase(t_s, values[this.iSelector] === this.type.runUpWatch.flightPosition ? 'flight' : 'idle');
  }

  private followPhase(t_s: number, dt_s: number, values: Float64Array): void {
    const spec = this.type.runUpWatch;
    switch (this.phase) {
      case 'off':
        if (this.start.starting) this.setPhase(t_s, 'start');
        return;
      case 'start':
        if (this.start.state === 'idle') this.setPhase(t_s, 'idle');
        else if (this.start.state === 'aborted' && this.start.starterOn_s === 0 && values[this.iSpeed]! < 5)
          this.setPhase(t_s, 'off');
        return;
      case 'idle':
        if (values[this.iSelector] === spec.flightPosition) {
          this.runUpSince_s = t_s;
          this.steady_s = 0;
          this.runUpLateCalled = false;
          this.setPhase(t_s, 'run-up');
        } else this.endIfShutDown(t_s, values);
        return;
      case 'run-up':
        this.followRunUp(t_s, dt_s, values[this.iRotor]!);
        this.backToIdle(t_s, values);
        return;
      case 'flight':
        this.backToIdle(t_s, values);
        return;
    }
  }

  private backToIdle(t_s: number, values: Float64Array): void {
    if (values[this.iSelector]! < this.type.runUpWatch.flightPosition) this.setPhase(t_s, 'idle');
    this.endIfShutDown(t_s, values);
  }

  private endIfShutDown(t_s: number, values: Float64Array): void {
    if (values[this.iFuel]! < 1 && values[this.iSpeed]! < RUNNING_NG_PCT) {
      this.setPhase(t_s, 'off');
      this.start.state = 'before';
    }
  }

  private followRunUp(t_s: number, dt_s: number, nr: number): void {
    const spec = this.type.runUpWatch;
    const inside = nr >= spec.rotor_pct[0] && nr <= spec.rotor_pct[1];
    this.steady_s = inside ? this.steady_s + dt_s : 0;
    const took_s = t_s - this.runUpSince_s;
    if (this.steady_s >= spec.steadyFor_s) {
      this.setPhase(t_s, 'flight');
      this.onEvent({
        kind: 'cue',
        t_s,
        code: 'run-up-done',
        severity: 'call',
        text: `Rotor ${nr.toFixed(0)} percent, steady`,
        say: `Rotor ${nr.toFixed(0)} percent, steady`,
      });
      this.onEvent({ kind: 'run-up-done', t_s, watch: spec.id, took_s });
    } else if (took_s > spec.within_s && !this.runUpLateCalled) {
      this.runUpLateCalled = true;
      this.onEvent({
        kind: 'cue',
        t_s,
        code: 'run-up-late',
        severity: 'caution',
        text: `Rotor ${nr.toFixed(0)} % ${spec.within_s} s after flight was selected; ${spec.rotor_pct[0]} to ${spec.rotor_pct[1]} % expected`,
        say: 'Rotor not at flight speed.',
      });
    }
  }

  private setPhase(t_s: number, phase: Phase): void {
    this.phase = phase;
    this.selectLimits(t_s);
    this.onEvent({ kind: 'phase', t_s, phase });
  }

  private selectLimits(t_s = 0): void {
    const next = this.limits.filter((w) => w.limit.phases.includes(this.phase));
    this.windows.end(t_s);
    for (const watched of this.active)
      if (!next.includes(watched) && watched.monitor.started) watched.monitor.close(t_s);
    this.active = next;
    this.windows = new LimitWindows(next, this.guards());
    this.needed = Int32Array.from(new Set([...this.always, ...next.map((w) => w.index)]));
  }

  private sourceBack(t_s: number): void {
    this.sourceLost = false;
    this.onEvent({
      kind: 'cue',
      t_s,
      code: 'source-back',
      severity: 'call',
      text: 'Data is back',
      say: 'Data is back.',
    });
  }

  private atEdge(
    watched: WatchedLimit,
    edge: 'ENTER' | 'EXIT' | 'EXPIRED',
    band: LimitBand,
    t_s: number,
    stay: Stay,
  ): void {
    if (edge === 'ENTER') {
      const cue = watched.entryCue(band, t_s, stay);
      if (cue) this.onEvent(cue);
    } else if (edge === 'EXIT')
      this.onEvent({ kind: 'exceedance', t_s: stay.end_s, exceedance: watched.exceedanceOf(band, stay) });
    // during a start the limits of temperature and volts are reasons to stop it
    else if (this.start.starting && watched.index === this.iTemperature)
      this.start.abort(t_s, aborts.hot(stay.peak, watched.expiryWords(band)));
    else if (this.start.starting && watched.index === this.iVolts)
      this.start.abort(t_s, aborts.lowVolts(stay.peak, watched.expiryWords(band)));
    else this.onEvent(watched.expiryCue(band, t_s));
  }
}
