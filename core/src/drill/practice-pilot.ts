import type { Item, StandInPreset, TraceCheck, WatchedType } from '../aircraft/index.ts';
import {
  anotherTry,
  type BriefRecord,
  closingOutcome,
  digestOfBytes,
  type Entry,
  isFinished,
  legsAhead,
  type Outcome,
  type Payload,
  presentItem,
  rightAnswer,
  type RunState,
  stagesDone,
  standInActions,
} from '../procedure/index.ts';
import {
  createSession,
  type Effects,
  NO_PAST,
  type RunSession,
  type Stamper,
  type StartFigures,
  traceBytes,
} from '../session/index.ts';
import { type Conditions, NormalSource, type PistonConditions, SimulatedCockpit, TICK_S } from '../simulator/index.ts';
import { type Trace, TraceBuilder } from '../trace/index.ts';
import type { Booking } from '../shutdown/index.ts';
import type { Corridors } from '../watch/index.ts';

export interface PracticeRun {
  entries: readonly Entry[];
  trace: Trace;
  /** figures of the starts as they stood at the end, one an attempt */
  starts: StartFigures[];
  booking: Booking;
  outcome: Outcome;
}

export interface PracticeInput {
  type: WatchedType;
  conditions: Conditions | PistonConditions;
  faults: StandInPreset['faults'];
  corridors: Corridors;
  seed: number;
  /** what the readings of the list are held against */
  brief?: BriefRecord | undefined;
  /** goes on after it is ready: lifts where the aircraft can, checks the hover, lands, shuts down */
  through?: 'shut-down' | undefined;
  /** how often this pilot tries a start that was stopped and may be tried again; once when missing */
  tries?: number | undefined;
  /** items that this pilot leaves out, and says so */
  skips?: readonly string[] | undefined;
  /** gives up when the run is not over by then */
  limit_s?: number;
  /** whose run it is; a nameless practice when missing */
  record?: PracticeRecord;
}

/** How a practice run is written when it is kept as a run of an aircraft. */
export interface PracticeRecord {
  run: string;
  tail: string;
  pad: string;
  conditions: string;
  by: string;
  stamp: Stamper;
  /** SHA-256, hex, of the bytes of the trace */
  digest: (bytes: Uint8Array) => string;
}

/** the pilot looks every so many frames */
const LOOK_EVERY_FRAMES = 5;
/** how long the pilot waits for a reading to agree */
const PATIENCE_S = 8;
/** how long the pilot waits for a stage of a check */
const CHECK_PATIENCE_S = 120;

/**
 * A whole run flown by a patient pilot on the simulator: reads the present item, moves its switches, answers, and does
 * the abort actions when the watch calls for them. Same seed, same run.
 */
export function flyPractice(input: PracticeInput): PracticeRun {
  return new PracticeFlight(input).fly();
}

class PracticeFlight {
  private readonly type: WatchedType;
  private readonly cockpit: SimulatedCockpit;
  private readonly chance: NormalSource;
  private readonly session: RunSession;
  private readonly builder: TraceBuilder;
  private readonly limit_s: number;
  private readonly input: PracticeInput;
  private readonly by: string;
  private readonly skips: ReadonlySet<string>;
  private readonly starts = new Map<string, StartFigures>();
  private booking: Booking | null = null;
  private readonly resolutions: number[];
  private t_s = 0;
  private actsOn = '';
  private actsAt_s = 0;
  private moved = false;
  private lookedAt: RunState | null = null;
  private present: Item | null = null;

  constructor(input: PracticeInput) {
    const { type, record } = input;
    this.input = input;
    this.type = type;
    this.cockpit = new SimulatedCockpit(type, input.conditions, input.faults, input.seed);
    this.chance = new NormalSource(input.seed ^ 0x5eed);
    this.by = record?.by ?? 'pilot';
    this.session = createSession(type, {
      run: record?.run ?? PRACTICE_RUN,
      past: { ...NO_PAST, corridors: input.corridors },
      stamp: record?.stamp ?? countingStamp(),
    });
    this.builder = new TraceBuilder(
      type.channels.map((c) => c.id),
      16_384,
    );
    this.resolutions = type.channels.map((c) => c.resolution);
    this.limit_s = input.limit_s ?? 900;
    this.skips = new Set(input.skips);
  }

  fly(): PracticeRun {
    const { type, session, input } = this;
    const opened = {
      tail: input.record?.tail ?? 'practice',
      type: type.id,
      typeVersion: type.version,
      source: 'simulated' as const,
      pad: input.record?.pad ?? '',
      conditions: input.record?.conditions ?? '',
    };
    this.take(session.open(this.by, opened, input.brief ?? null));
    for (let tick = 1; this.isOpen && this.t_s < this.limit_s; tick++) {
      this.t_s = Math.round(tick * TICK_S * 1000) / 1000;
      const values = this.rounded(this.cockpit.tick());
      this.builder.push(this.t_s, values);
      const seen = session.entries.length;
      this.take(session.frame(this.t_s, values));
      if (tick % LOOK_EVERY_FRAMES === 0 || session.entries.length > seen) this.act();
    }
    const outcome = session.state.outcome ?? 'given-up';
    if (this.isOpen) this.close('given-up');
    return {
      entries: session.entries,
      trace: this.builder.toTrace(),
      starts: [...this.starts.values()],
      booking: this.booking!,
      outcome,
    };
  }

  private get isOpen(): boolean {
    return this.session.state.status === 'open';
  }

  private take({ starts, close }: Effects): void {
    for (const start of starts) this.starts.set(`${start.watch}/${start.attempt}`, start);
    if (close) this.booking = close.booking;
  }

  private close(outcome: Outcome): void {
    if (this.builder.length > 0) {
      const hash = this.input.record?.digest ?? digestOfBytes;
      const digest = hash(traceBytes(this.builder.toTrace(), this.resolutions));
      this.take(this.session.seal(this.t_s, this.t_s, this.builder.length, digest));
    }
    this.say({ kind: 'closed', outcome });
  }

  /** A unit sends what its line can carry: each value to the step of its channel. */
  private rounded(values: Float64Array): Float64Array {
    for (let i = 0; i < values.length; i++) {
      const steps = 1 / this.resolutions[i]!;
      values[i] = Math.round(values[i]! * steps) / steps;
    }
    return values;
  }

  private act(): void {
    const { state } = this.session;
    if (this.lookedAt !== state) {
      this.lookedAt = state;
      this.present = presentItem(this.type, state);
    }
    const item = this.present;
    if (!item) {
      this.endOfList();
      return;
    }
    if (!this.isReady(item, state)) return;
    if (this.skips.has(item.id)) this.say({ kind: 'item-skipped', item: item.id, reason: 'left out' });
    else if (item.kind === 'measure' && item.trace) this.follow(item.trace, item.id);
    else if (item.standIn && !this.moved) {
      this.moved = true;
      for (const action of standInActions(item, state)) this.cockpit.move(action);
    } else this.answer(item, state);
  }

  /** A pilot takes a moment over each item, and over each stage of a check. */
  private isReady(item: Item, state: RunState): boolean {
    const at = item.kind === 'measure' ? `${item.id}/${stagesDone(state, item)}` : item.id;
    if (at !== this.actsOn) {
      this.actsOn = at;
      this.moved = false;
      this.actsAt_s = this.t_s + (state.abort ? 0.6 : 1.5) + 2.5 * this.chance.uniform();
    }
    return this.t_s >= this.actsAt_s;
  }

  /** Says of an item what is so, waits where sensors settle it, and records what does not follow. */
  private answer(item: Item, state: RunState): void {
    if (item.kind === 'wait' || item.kind === 'watch') return;
    if (item.kind === 'hold' && this.t_s < this.actsAt_s + item.hold_s) return;
    if (item.kind === 'set' && item.expect) {
      const slowest_s = Math.max(0, ...(item.standIn ?? []).map((a) => a.after_s ?? 0));
      if (this.t_s > this.actsAt_s + slowest_s + PATIENCE_S)
        this.say({ kind: 'item-fault', item: item.id, note: 'Moved, but not seen to follow' });
      return;
    }
    const refused = this.say(rightAnswer(item, { type: this.type, state }));
    if (refused !== null && this.t_s > this.actsAt_s + PATIENCE_S)
      this.say({ kind: 'item-fault', item: item.id, note: refused });
  }

  /** Nothing is left to do: begins the next leg, or closes the run. */
  private endOfList(): void {
    const { state } = this.session;
    if (this.triesAgain(state)) return;
    const [leg] = this.input.through === 'shut-down' ? legsAhead(this.type, state) : [];
    if (!leg || state.abort || !isFinished(this.type, state)) {
      this.close(closingOutcome(this.type, state));
      return;
    }
    for (const action of leg.standIn ?? []) this.cockpit.move(action);
    this.say({ kind: 'leg-begun', leg: leg.id, how: 'declared' });
  }

  /** @returns whether a start that was stopped is tried again, or waited for */
  private triesAgain(state: RunState): boolean {
    if (!state.abort || state.triedAgain.length + 1 >= (this.input.tries ?? 1)) return false;
    const starts = this.session.view().watch?.starts ?? null;
    const next = anotherTry(this.type, state, { entries: this.session.entries, starts });
    if (next?.verdict === 'open') this.say({ kind: 'try-again', watch: state.abort.watch, items: [] });
    return next?.verdict === 'open' || next?.verdict === 'held';
  }

  /** Does what the present stage of a check says, and records what the check found when it is not good. */
  private follow({ stages }: TraceCheck, id: string): void {
    const { state } = this.session;
    const found = state.measured[id];
    const stage = stages[state.stages[id]?.length ?? 0];
    if (found && found.verdict !== 'good' && found.attempts > 1)
      this.say({ kind: 'item-fault', item: id, note: found.words });
    else if (this.t_s > this.actsAt_s + CHECK_PATIENCE_S)
      this.say({ kind: 'item-fault', item: id, note: `${stage?.do ?? 'It'}: not seen to follow` });
    else if (!this.moved) {
      this.moved = true;
      for (const action of stage?.standIn ?? []) this.cockpit.move(action);
      if (stage && !stage.expect)
        this.say({ kind: 'stage-done', item: id, stage: stages.indexOf(stage), value: null, words: stage.do, last: false }); // prettier-ignore
    }
  }

  /** @returns why it was refused, null when it was taken */
  private say(payload: Payload): string | null {
    const answered = this.session.answer({ by: this.by, t_s: this.t_s, payload });
    this.take(answered.effects);
    return answered.ok ? null : answered.message;
  }
}

const PRACTICE_RUN = '00000000-0000-7000-8000-000000000000';

/** Ids that count up from nothing: the same run gives the same entries. */
function countingStamp(): Stamper {
  let count = 0;
  return (t_s) => ({ id: `00000000-0000-7000-8000-${String(++count).padStart(12, '0')}`, at_ms: t_s * 1000 });
}
