import { type Item, Sensed, type TypeFile } from '../aircraft/index.ts';
import type { CheckSnapshot } from '../checks/index.ts';
import { sayUnseen, type StartRecord, type WatchEvent } from '../watch/index.ts';
import { CheckDesk, type Learned, NOTHING_LEARNED } from './check-desk.ts';
import type { Payload } from './entries.ts';
import { conditionOf, readItem } from './reading.ts';
import { legsAhead, type OpenLoop, procedureOf, stillOpen } from './list.ts';
import { isFinished, meanwhileItems, presentItem } from './plan.ts';
import { itemState, type RunState } from './state.ts';

type Leg = TypeFile['legs'][number];

/** An item that settles itself when what is seen has lasted. */
export interface Dwell {
  item: string;
  left_s: number;
}

/**
 * Turns frames and watch events into journal entries: items that sensors can settle are settled by them.
 * It remembers dwells only; after an interruption it begins again from the journal.
 */
export class Runner {
  private readonly type: TypeFile;
  private readonly sensed = new Map<string, Sensed>();
  private readonly announced = new Set<string>();
  private readonly checks: CheckDesk;
  private looked: {
    state: RunState;
    present: Item | null;
    candidates: Item[];
    open: OpenLoop[];
    leg: Leg | null;
  } | null = null;

  /** @param learned what the tail's own past says */
  constructor(type: TypeFile, learned: Learned = NOTHING_LEARNED) {
    this.type = type;
    this.checks = new CheckDesk(type, learned);
  }

  /** One frame, every frame: checks are measured at the rate of the line. @returns true when `observe` should look at once */
  frame(t_s: number, values: ArrayLike<number>): boolean {
    return this.checks.frame(t_s, values);
  }

  /** The check that goes on, null when none does. */
  check(): CheckSnapshot | null {
    return this.checks.snapshot();
  }

  /** What the sensors see already and that only has to last: how long still. */
  dwells(): Dwell[] {
    return (this.looked?.candidates ?? []).flatMap(({ id }) => {
      const left_s = this.sensed.get(id)?.left_s() ?? 0;
      return left_s > 0 ? [{ item: id, left_s }] : [];
    });
  }

  /** @returns what one frame settles, in order; empty nearly always */
  observe(t_s: number, values: ArrayLike<number>, state: RunState): Payload[] {
    const { present, candidates, open, leg } = this.lookAt(state);
    const out = this.checks.observe(t_s, { present, open }, values, state);
    const begun = this.begins(t_s, values, leg);
    if (begun) out.push({ kind: 'leg-begun', leg: begun, how: 'sensed' });
    for (const item of candidates) {
      if (item.kind !== 'set' && item.kind !== 'wait') continue;
      if (item.kind === 'set' && item !== present && !item.meanwhile) continue;
      const condition = conditionOf(item);
      if (!condition || this.announced.has(attemptAt(item, state))) continue;
      let sensed = this.sensed.get(item.id);
      if (!sensed) {
        sensed = new Sensed(condition, this.type.channels);
        this.sensed.set(item.id, sensed);
      }
      if (sensed.update(t_s, values) !== true) continue;
      this.sensed.delete(item.id);
      this.announced.add(attemptAt(item, state));
      const reading = readItem(this.type, item, values);
      out.push({
        kind: 'item-done',
        item: item.id,
        how: 'sensed',
        value: reading?.value ?? null,
        words: reading?.words ?? '',
      });
    }
    return out;
  }

  /** The leg that may begin by itself, once it is seen to. */
  private begins(t_s: number, values: ArrayLike<number>, leg: Leg | null): string | null {
    if (!leg || this.announced.has(`leg/${leg.id}`)) return null;
    const sensed = this.sensed.get(`leg/${leg.id}`) ?? new Sensed(leg.begins!, this.type.channels);
    this.sensed.set(`leg/${leg.id}`, sensed);
    if (sensed.update(t_s, values) !== true) return null;
    this.announced.add(`leg/${leg.id}`);
    return leg.id;
  }

  /** The lift once everything before it is done, then what follows it; null while nothing may begin. */
  private nextLeg(state: RunState): Leg | null {
    if (state.status !== 'open' || state.abort) return null;
    const lifted = Object.keys(state.begun).length > 0;
    return lifted || isFinished(this.type, state) ? (legsAhead(this.type, state)[0] ?? null) : null;
  }

  /** What can be settled in this state; looked up anew only when the journal has grown. */
  private lookAt(state: RunState): NonNullable<Runner['looked']> {
    if (this.looked?.state === state) return this.looked;
    const present = presentItem(this.type, state);
    const meanwhile = meanwhileItems(this.type, state);
    const candidates = present ? [present, ...meanwhile] : meanwhile;
    this.looked = { state, present, candidates, open: stillOpen(this.type, state), leg: this.nextLeg(state) };
    return this.looked;
  }

  /** @returns the entries that one watch event makes, the settled watch item included */
  fromWatch(event: WatchEvent, state: RunState): Payload[] {
    switch (event.kind) {
      case 'state':
        return [{ kind: 'start-state', watch: event.watch, state: event.state, words: event.words }];
      case 'cue':
        return [{ kind: 'cue', code: event.code, severity: event.severity, text: event.text, say: event.say }];
      case 'abort':
        return [
          {
            kind: 'abort',
            watch: event.watch,
            reason: event.reason,
            text: event.text,
            say: event.say,
            figure: event.figure,
          },
        ];
      case 'phase':
        return [{ kind: 'phase', phase: event.phase }];
      case 'exceedance':
        return [{ kind: 'exceedance', ...event.exceedance }];
      case 'start-done': {
        const record = Object.fromEntries(
          Object.entries(event.record).map(([k, v]) => [k, Number.isFinite(v) ? (v as number) : null]),
        );
        const done: Payload = { kind: 'start-done', watch: event.watch, verdict: event.verdict, record };
        return [done, ...this.settleWatch(event.watch, state, peakOf(event.record), sayStart(event))];
      }
      case 'start-ended':
        return [];
      case 'run-up-done': {
        const { t_s: _, ...done } = event;
        const torque = done.torqueMax_pct > 0 ? `, torque to ${done.torqueMax_pct.toFixed(0)} %` : '';
        const split = done.splitMax_pct > 0 ? `, split to ${done.splitMax_pct.toFixed(0)} %` : '';
        const words = `${done.took_s.toFixed(1)} s, rotor to ${done.rotorMax_pct.toFixed(1)} %${torque}${split}`;
        return [done, ...this.settleWatch(done.watch, state, done.took_s, words)];
      }
    }
  }

  private settleWatch(watch: string, state: RunState, value: number | null, words: string): Payload[] {
    // nobody worked a list in a recording
    if (state.source === 'recording') return [];
    const item = procedureOf(this.type, state).find((i) => i.kind === 'watch' && i.watch === watch);
    if (!item || state.abort || itemState(state, item.id).status !== 'todo') return [];
    return [{ kind: 'item-done', item: item.id, how: 'watched', value, words }];
  }
}

/** An item that was gone back to is settled by sensors once more, but not twice in one try. */
const attemptAt = (item: Item, state: RunState): string =>
  `${item.id}/${itemState(state, item.id).seq}/${state.triedAgain.length}`;

const peakOf = (record: StartRecord): number | null => (Number.isFinite(record.peak_C) ? record.peak_C : null);

/** A start in words: its peak where there is one, and what of it nobody has seen. */
function sayStart({ record, verdict }: Extract<WatchEvent, { kind: 'start-done' }>): string {
  const peak = peakOf(record);
  const known = peak === null ? 'idle stable' : `peak ${peak.toFixed(0)} °C`;
  return verdict === 'good' ? known : `${known} as far as it was seen; ${sayUnseen(record)}`;
}
