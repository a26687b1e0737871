import type { Item, StandInPreset, TraceCheck, WatchedType } from '../aircraft/index.ts';
import {
  acceptFromPilot,
  closingOutcome,
  type BriefRecord,
  type Entry,
  isFinished,
  legsAhead,
  type Outcome,
  type Payload,
  presentItem,
  reduceRun,
  Runner,
  type RunState,
  stagesDone,
  standInActions,
} from '../procedure/index.ts';
import { type Conditions, NormalSource, type PistonConditions, SimulatedCockpit, TICK_S } from '../simulator/index.ts';
import { type Trace, TraceBuilder } from '../trace/index.ts';
import { rightAnswer } from './right-answer.ts';
import { type Corridors, type StartProfile, type StartRecord, Watch, type WatchEvent } from '../watch/index.ts';

export interface PracticeRun {
  /** what went into the journal, with its run clock */
  written: { t_s: number; by: 'pilot' | 'watch'; payload: Payload }[];
  trace: Trace;
  starts: { watch: string; record: StartRecord; profile: StartProfile; good: boolean }[];
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
  /** items that this pilot leaves out, and says so */
  skips?: readonly string[] | undefined;
  /** gives up when the run is not over by then */
  limit_s?: number;
}

const OBSERVE_EVERY = 5;
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
  private readonly runner: Runner;
  private readonly watch: Watch;
  private readonly builder: TraceBuilder;
  private readonly limit_s: number;
  private readonly through: PracticeInput['through'];
  private readonly brief: BriefRecord | undefined;
  private readonly skips: ReadonlySet<string>;
  private readonly written: PracticeRun['written'] = [];
  private readonly entries: Entry[] = [];
  private readonly starts: PracticeRun['starts'] = [];
  private readonly events: WatchEvent[] = [];
  private readonly resolutions: number[];
  private state: RunState = reduceRun([]);
  private t_s = 0;
  private actsOn = '';
  private actsAt_s = 0;
  private moved = false;
  private lookedAt: RunState | null = null;
  private present: Item | null = null;

  constructor(input: PracticeInput) {
    this.type = input.type;
    this.cockpit = new SimulatedCockpit(input.type, input.conditions, input.faults, input.seed);
    this.chance = new NormalSource(input.seed ^ 0x5eed);
    this.runner = new Runner(input.type);
    this.watch = new Watch(input.type, input.corridors, (event) => this.events.push(event));
    this.builder = new TraceBuilder(
      input.type.channels.map((c) => c.id),
      16_384,
    );
    this.resolutions = input.type.channels.map((c) => c.resolution);
    this.limit_s = input.limit_s ?? 900;
    this.through = input.through;
    this.brief = input.brief;
    this.skips = new Set(input.skips);
  }

  fly(): PracticeRun {
    const opened: Payload = {
      kind: 'run-opened',
      tail: 'practice',
      type: this.type.id,
      typeVersion: this.type.version,
      source: 'simulated',
      pad: '',
      conditions: '',
    };
    this.write('pilot', opened);
    if (this.brief) this.write('pilot', { kind: 'briefed', brief: this.brief });
    for (let tick = 1; this.state.status === 'open' && this.t_s < this.limit_s; tick++) {
      this.t_s = Math.round(tick * TICK_S * 1000) / 1000;
      const values = this.rounded(this.cockpit.tick());
      this.builder.push(this.t_s, values);
      this.watch.step(this.t_s, values);
      this.drainEvents();
      if (this.runner.frame(this.t_s, values) || tick % OBSERVE_EVERY === 0) {
        for (const payload of this.runner.observe(this.t_s, values, this.state)) this.write('watch', payload);
        this.act(values);
      }
    }
    for (const start of this.watch.starts) {
      const { spec, record } = start;
      const kept = this.starts.some((s) => s.watch === spec.id && s.record.attempt === record.attempt);
      if (start.state === 'aborted' && !kept)
        this.starts.push({ watch: spec.id, record: { ...record }, profile: start.profile(), good: false });
    }
    const outcome = this.state.outcome ?? 'given-up';
    if (this.state.status === 'open') this.write('pilot', { kind: 'closed', outcome });
    return { written: this.written, trace: this.builder.toTrace(), starts: this.starts, outcome };
  }

  /** A unit sends what its line can carry: each value to the step of its channel. */
  private rounded(values: Float64Array): Float64Array {
    for (let i = 0; i < values.length; i++) {
      const steps = 1 / this.resolutions[i]!;
      values[i] = Math.round(values[i]! * steps) / steps;
    }
    return values;
  }

  private drainEvents(): void {
    for (const event of this.events.splice(0)) {
      if (event.kind === 'start-done' || event.kind === 'start-ended') {
        const { watch, record, profile } = event;
        this.starts.push({ watch, record, profile, good: event.kind === 'start-done' });
      }
      for (const payload of this.runner.fromWatch(event, this.state)) this.write('watch', payload);
    }
  }

  private act(values: Float64Array): void {
    if (this.lookedAt !== this.state) {
      this.lookedAt = this.state;
      this.present = presentItem(this.type, this.state);
    }
    const item = this.present;
    if (!item) {
      this.endOfList();
      return;
    }
    const at = item.kind === 'measure' ? `${item.id}/${stagesDone(this.state, item)}` : item.id;
    if (at !== this.actsOn) {
      this.actsOn = at;
      this.moved = false;
      this.actsAt_s = this.t_s + (this.state.abort ? 0.6 : 1.5) + 2.5 * this.chance.uniform();
    }
    if (this.t_s < this.actsAt_s) return;
    if (this.skips.has(item.id)) {
      this.write('pilot', { kind: 'item-skipped', item: item.id, reason: 'left out' });
      return;
    }
    if (item.kind === 'measure' && item.trace) {
      this.follow(item.trace, item.id);
      return;
    }
    if (item.standIn && !this.moved) {
      this.moved = true;
      for (const action of standInActions(item, this.state)) this.cockpit.move(action);
      return;
    }
    if (item.kind === 'wait' || item.kind === 'watch') return;
    if (item.kind === 'hold' && this.t_s < this.actsAt_s + item.hold_s) return;
    if (item.kind === 'set' && item.expect) {
      const slowest_s = Math.max(0, ...(item.standIn ?? []).map((a) => a.after_s ?? 0));
      if (this.t_s > this.actsAt_s + slowest_s + PATIENCE_S)
        this.write('pilot', { kind: 'item-fault', item: item.id, note: 'Moved, but not seen to follow' });
      return;
    }
    const wanted = rightAnswer(this.type, this.state, item);
    const verdict = acceptFromPilot(this.type, this.state, wanted, values);
    if (verdict.ok) this.write('pilot', verdict.payload);
    else if (this.t_s > this.actsAt_s + PATIENCE_S)
      this.write('pilot', { kind: 'item-fault', item: item.id, note: verdict.message });
  }

  /** Nothing is left to do: begins the next leg, or closes the run. */
  private endOfList(): void {
    const [leg] = this.through === 'shut-down' ? legsAhead(this.type, this.state) : [];
    if (!leg || this.state.abort || !isFinished(this.type, this.state)) {
      this.write('pilot', { kind: 'closed', outcome: closingOutcome(this.type, this.state) });
      return;
    }
    for (const action of leg.standIn ?? []) this.cockpit.move(action);
    this.write('pilot', { kind: 'leg-begun', leg: leg.id, how: 'declared' });
  }

  /** Does what the present stage of a check says, and records what the check found when it is not good. */
  private follow({ stages }: TraceCheck, id: string): void {
    const found = this.state.measured[id];
    const stage = stages[this.state.stages[id]?.length ?? 0];
    if (found && found.verdict !== 'good' && found.attempts > 1)
      this.write('pilot', { kind: 'item-fault', item: id, note: found.words });
    else if (this.t_s > this.actsAt_s + CHECK_PATIENCE_S)
      this.write('pilot', { kind: 'item-fault', item: id, note: `${stage?.do ?? 'It'}: not seen to follow` });
    else if (!this.moved) {
      this.moved = true;
      for (const action of stage?.standIn ?? []) this.cockpit.move(action);
      if (stage && !stage.expect)
        this.write('pilot', { kind: 'stage-done', item: id, stage: stages.indexOf(stage), value: null, words: stage.do, last: false }); // prettier-ignore
    }
  }

  private write(by: 'pilot' | 'watch', payload: Payload): void {
    const seq = this.entries.length + 1;
    this.written.push({ t_s: this.t_s, by, payload });
    this.entries.push({ id: String(seq), run: '', seq, at: '', t: this.t_s, by, prev: '', ...payload });
    this.state = reduceRun(this.entries);
  }
}
