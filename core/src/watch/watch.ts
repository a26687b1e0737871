import { channelsOf, type LimitBand, type Phase, type WatchedType } from '../aircraft/index.ts';
import type { Trace } from '../trace/index.ts';
import * as aborts from './abort-calls.ts';
import type { Excursion } from './band-monitor.ts';
import { AvoidedSpeed } from './avoided-speed.ts';
import type { Corridor } from './corridor.ts';
import type { EventSink } from './events.ts';
import { GAP_S, type Guard, LimitWindows } from './limit-windows.ts';
import { PistonStartMachine } from './piston-start.ts';
import { RunUp } from './run-up.ts';
import type { DayAir } from './start-day.ts';
import { SuspendedLimit } from './suspended-limit.ts';
import type { StartMachine } from './start-machine.ts';
import { TurbineStartMachine } from './turbine-start.ts';
import { WatchedLimit } from './watched-limit.ts';

/** no frame for longer than this, and every reading is unknown */
export const SOURCE_LOST_AFTER_S = 0.8;
/** rows looked at together in a replay; shorter than a gap at any usual rate */
const BLOCK_ROWS = 96;
/** rows taken one by one before blocks are tried again */
const CLOSE_ROWS = 8;

/** Corridors by start watch; a start without one is judged by its limits and deadlines alone. */
export type Corridors = Readonly<Record<string, Corridor | null>>;

/**
 * The watcher of one aircraft: limits by phase, the starts of its engines, the run-up, and whether there is data at
 * all. It is fed frames in order and reports through `onEvent`; it keeps no clock of its own.
 */
export class Watch {
  /** in the order of the type's start watches */
  readonly starts: readonly StartMachine[];
  phase: Phase = 'off';
  sourceLost = false;
  lastFrame_s = NaN;

  private readonly type: WatchedType;
  private readonly limits: WatchedLimit[];
  private readonly onEvent: EventSink;
  private readonly runUp: RunUp;
  private readonly avoided: readonly AvoidedSpeed[];
  private readonly suspended: readonly SuspendedLimit[];
  private active: WatchedLimit[] = [];
  private windows = new LimitWindows([], []);
  /** columns that the starts and the phases read, and those together with the limits in force */
  private readonly always: readonly number[];
  private needed = new Int32Array(0);
  private readonly fixedPhase: boolean;
  private lead = 0;
  /** when the loss of the source was said */
  private lostAt_s = NaN;

  /** @param fixedPhase keeps one phase for the whole record (a CSV of one phase) */
  constructor(type: WatchedType, corridors: Corridors, onEvent: EventSink, fixedPhase?: Phase) {
    this.type = type;
    this.onEvent = onEvent;
    const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
    this.limits = type.limits.map(
      (limit) =>
        new WatchedLimit(type, limit, (watched, edge, band, t_s, excursion) =>
          this.atEdge(watched, edge, band, t_s, excursion),
        ),
    );
    this.suspended = type.limits.flatMap((limit) =>
      limit.notWhile ? [new SuspendedLimit(type, limit, limit.notWhile)] : [],
    );
    this.starts = type.startWatches.map((spec) =>
      spec.kind === 'piston'
        ? new PistonStartMachine(type, spec, onEvent)
        : new TurbineStartMachine(type, spec, corridors[spec.id] ?? null, onEvent),
    );
    this.runUp = new RunUp(type, type.runUpWatch, onEvent);
    this.avoided = (type.runUpWatch.avoid ?? []).map((spec) => new AvoidedSpeed(type, spec, onEvent));
    this.always = [
      ...type.startWatches.flatMap((spec) => [
        ...Object.values<string | undefined>(spec.channels).flatMap((id) => (id === undefined ? [] : [index(id)])),
        index(spec.starter.channel),
        ...spec.gates.flatMap((g) => channelsOf(g.condition)).map(index),
      ]),
      ...this.runUp.columns,
      ...this.avoided.map((a) => a.index),
      // a limit that comes back into force is judged by the same frame
      ...this.suspended.flatMap((s) => [s.index, index(s.limit.channel)]),
    ];
    this.fixedPhase = fixedPhase !== undefined;
    this.phase = fixedPhase ?? 'off';
    this.selectLimits();
  }

  /** The start that goes on, or the one that did last. */
  get start(): StartMachine {
    return this.starts[this.lead]!;
  }

  /** One frame. Time must go forward; a frame that does not is ignored. @param values channel order of the type, NaN where lost */
  step(t_s: number, values: Float64Array): void {
    const last = this.lastFrame_s;
    let dt_s = t_s - last;
    if (!(dt_s > 0)) {
      if (!Number.isNaN(last)) return;
      dt_s = 0;
      this.first(values, t_s);
    }
    this.lastFrame_s = t_s;
    // readings that were held back, and come one by one, are as old as before
    if (this.sourceLost && t_s > this.lostAt_s - SOURCE_LOST_AFTER_S / 2) this.sourceBack(t_s);

    let suspended = false;
    for (let i = 0; i < this.suspended.length; i++) if (this.suspended[i]!.update(t_s, values)) suspended = true;
    if (suspended) this.selectLimits(t_s);
    this.windows.step(last, t_s, values);
    let changed = false;
    for (let i = 0; i < this.starts.length; i++) {
      const machine = this.starts[i]!;
      if (machine.advance(t_s, dt_s, values)) changed = true;
      if (machine.phase === 'start') this.lead = i;
    }
    if (this.runs && !changed && this.phase !== 'start') {
      changed = this.runUp.step(t_s, dt_s, values);
      for (let i = 0; i < this.avoided.length; i++) this.avoided[i]!.step(t_s, dt_s, values[this.avoided[i]!.index]!);
    }
    if (changed && !this.fixedPhase) this.followPhase(t_s);
  }

  /** A recorded stretch, frame by frame where anything could happen and in blocks where nothing can. Reports what `step` would. */
  replay(trace: Trace): void {
    const { t_s, columns } = trace;
    const width = columns.length;
    const close = new Float64Array(CLOSE_ROWS * width);
    const frames = Array.from({ length: CLOSE_ROWS }, (_, r) => close.subarray(r * width, (r + 1) * width));
    let i = 0;
    if (Number.isNaN(this.lastFrame_s) && t_s.length > 0) {
      // the first frame tells which phase it is: it is read whole
      for (let c = 0; c < width; c++) close[c] = columns[c]![0]!;
      this.step(t_s[i++]!, frames[0]!);
    }
    while (i < t_s.length) {
      const end = this.quietRows(trace, i, Math.min(i + BLOCK_ROWS, t_s.length));
      if (end > i) {
        this.windows.skip(trace, i, end);
        this.lastFrame_s = t_s[end - 1]!;
        if (this.starts.some((s) => s.phase === 'off')) {
          this.gather(columns, end - 1, end, close);
          for (const machine of this.starts) if (machine.phase === 'off') machine.rest(this.lastFrame_s, frames[0]!);
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
    if (this.phase === 'start' || this.sourceLost || !(end_s - this.lastFrame_s <= GAP_S)) return from;
    if (this.runs) {
      if (this.runUp.needsCloseLook(end_s)) return from;
      for (const speed of this.avoided) if (speed.needsCloseLook(trace.columns[speed.index]!, from, to)) return from;
    }
    for (const limit of this.suspended) if (limit.aside) return from;
    for (const machine of this.starts) if (machine.duty.on_s > 0) return from;
    return this.windows.quietUntil(trace, from, to);
  }

  /** Readings that can end the present phase when they leave these ranges. */
  private guards(): Guard[] {
    const guards = [...this.starts.flatMap((machine) => machine.guards()), ...this.suspended.map((s) => s.guard())];
    return this.runs ? [...guards, ...this.runUp.guards()] : guards;
  }

  /** an engine that drives the rotor is at work */
  private get runs(): boolean {
    for (const machine of this.starts) if (machine.phase === 'running' && machine.spec.engine > 0) return true;
    return false;
  }

  /** Tells the watch what time it is while no frame comes. */
  clock(t_s: number): void {
    if (this.sourceLost || Number.isNaN(this.lastFrame_s) || t_s - this.lastFrame_s <= SOURCE_LOST_AFTER_S) return;
    this.sourceLost = true;
    this.lostAt_s = t_s;
    const text = this.starting
      ? 'No data from the aircraft during the start. Every reading is unknown: decide by the cockpit instruments'
      : 'No data from the aircraft. Every reading is unknown';
    this.onEvent({ kind: 'cue', t_s, code: 'source-lost', severity: 'warning', text, say: 'Data lost.' });
  }

  /** whether any engine is being started */
  get starting(): boolean {
    for (const machine of this.starts) if (machine.starting) return true;
    return false;
  }

  /** What the brief says of the air that the next start is made in. */
  airIs(air: DayAir): void {
    for (const machine of this.starts) machine.air = air;
  }

  /** The pilot's own call to stop a start. */
  pilotAbort(t_s: number): void {
    for (const machine of this.starts) machine.abort(t_s, aborts.ownCall());
  }

  /** Ends the record: every excursion that is open is written up. */
  finish(t_s: number): void {
    for (const watched of this.active) if (watched.monitor.started) watched.monitor.close(t_s);
  }

  /** Time in the worst open band of a channel and what is left of it, for the room strip. */
  roomOf(channel: string): { band: LimitBand; remaining_s: number } | null {
    let found: { band: LimitBand; remaining_s: number } | null = null;
    for (const watched of this.active) {
      if (watched.limit.channel !== channel || !watched.monitor.active) continue;
      for (const excursion of watched.monitor.openExcursions()) {
        const band = watched.limit.bands.find((b) => b.id === excursion.band)!;
        found = { band, remaining_s: watched.monitor.usage(band.id).remaining_s };
      }
    }
    return found;
  }

  private first(values: Float64Array, t_s: number): void {
    if (this.fixedPhase) return;
    for (const machine of this.starts) if (machine.runsIn(values)) machine.foundRunning();
    if (!this.runs) return;
    this.runUp.found(values);
    this.followPhase(t_s);
  }

  private followPhase(t_s: number): void {
    const starting = this.starts.some((s) => s.phase === 'start');
    if (!starting && !this.runs) this.runUp.stop();
    const phase: Phase = starting ? 'start' : this.runs ? this.runUp.phase : 'off';
    const changed = phase !== this.phase;
    this.phase = phase;
    this.selectLimits(t_s);
    if (changed) this.onEvent({ kind: 'phase', t_s, phase });
  }

  /** The phase that decides which limits of a channel are in force: that of its engine, or of the aircraft. */
  private phaseOf(index: number): Phase {
    const { engine } = this.type.channels[index]!;
    const machine = engine === undefined ? undefined : this.starts.find((s) => s.spec.engine === engine);
    if (!machine || this.fixedPhase) return this.phase;
    return machine.phase === 'running' ? this.runUp.phase : machine.phase;
  }

  private selectLimits(t_s = 0): void {
    const aside = this.suspended.filter((s) => s.aside).map((s) => s.limit);
    const next = this.limits.filter((w) => w.limit.phases.includes(this.phaseOf(w.index)) && !aside.includes(w.limit));
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
    excursion: Excursion,
  ): void {
    if (edge === 'ENTER') {
      const cue = watched.entryCue(band, t_s, excursion);
      if (cue) this.onEvent(cue);
    } else if (edge === 'EXIT')
      this.onEvent({ kind: 'exceedance', t_s: excursion.end_s, exceedance: watched.exceedanceOf(band, excursion) });
    // during a start the limits of temperature and volts are reasons to stop it
    else if (!this.stopStart(watched, band, t_s, excursion)) this.onEvent(watched.expiryCue(band, t_s));
  }

  private stopStart(watched: WatchedLimit, band: LimitBand, t_s: number, excursion: Excursion): boolean {
    const words = watched.expiryWords(band);
    let stopped = false;
    for (const machine of this.starts) {
      if (machine.phase !== 'start') continue;
      const { spec } = machine;
      if (spec.kind === 'turbine' && spec.channels.temperature === watched.limit.channel)
        stopped = machine.tooHot(t_s, excursion.peak, words) || stopped;
      else if (spec.channels.volts === watched.limit.channel)
        stopped = machine.tooFewVolts(t_s, excursion.peak, words) || stopped;
    }
    return stopped;
  }
}
