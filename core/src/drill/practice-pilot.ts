import type { StandInAction, StandInPreset, WatchedType } from '../aircraft/index.ts';
import {
  type BriefRecord,
  closingOutcome,
  digestOfBytes,
  type Entry,
  type RunOutcome,
  type Payload,
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
import { type Conditions, type PistonConditions, SimulatedCockpit, TICK_S } from '../simulator/index.ts';
import { countingStamp, DRILL_RUN } from './drill-record.ts';
import { PatientPilot, type PilotOptions } from './patient-pilot.ts';
import { type Trace, TraceBuilder } from '../trace/index.ts';
import type { Booking } from '../shutdown/index.ts';
import type { Corridors } from '../watch/index.ts';

export interface PracticeRun {
  entries: readonly Entry[];
  trace: Trace;
  /** figures of the starts as they stood at the end, one an attempt */
  starts: StartFigures[];
  booking: Booking;
  outcome: RunOutcome;
}

export interface PracticeInput extends PilotOptions {
  type: WatchedType;
  conditions: Conditions | PistonConditions;
  faults: StandInPreset['faults'];
  corridors: Corridors;
  /** what the readings of the list are held against */
  brief?: BriefRecord | undefined;
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
  private readonly pilot: PatientPilot;
  private readonly session: RunSession;
  private readonly builder: TraceBuilder;
  private readonly limit_s: number;
  private readonly input: PracticeInput;
  private readonly by: string;
  private readonly starts = new Map<string, StartFigures>();
  private booking: Booking | null = null;
  private readonly resolutions: number[];
  private t_s = 0;

  constructor(input: PracticeInput) {
    const { type, record } = input;
    this.input = input;
    this.type = type;
    this.cockpit = new SimulatedCockpit(type, input.conditions, input.faults, input.seed);
    const hands = { move: (action: StandInAction) => this.cockpit.move(action), say: (p: Payload) => this.say(p) };
    this.pilot = new PatientPilot(type, hands, input);
    this.by = record?.by ?? 'pilot';
    this.session = createSession(type, {
      run: record?.run ?? DRILL_RUN,
      past: { ...NO_PAST, corridors: input.corridors },
      stamp: record?.stamp ?? countingStamp(),
    });
    this.builder = new TraceBuilder(
      type.channels.map((c) => c.id),
      16_384,
    );
    this.resolutions = type.channels.map((c) => c.resolution);
    this.limit_s = input.limit_s ?? 900;
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

  private close(outcome: RunOutcome): void {
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
    if (this.pilot.look(this.t_s, this.session)) return;
    this.close(closingOutcome(this.type, this.session.state));
  }

  /** @returns why it was refused, null when it was taken */
  private say(payload: Payload): string | null {
    const answered = this.session.answer({ by: this.by, t_s: this.t_s, payload });
    this.take(answered.effects);
    return answered.ok ? null : answered.message;
  }
}
