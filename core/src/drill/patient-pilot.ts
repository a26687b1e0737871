import { type Item, stagesOf, type StandInAction, type TypeFile } from '../aircraft/index.ts';
import {
  anotherTry,
  isFinished,
  legsAhead,
  type Payload,
  presentItem,
  rightAnswer,
  type RunState,
  stagesDone,
  standInActions,
} from '../procedure/index.ts';
import type { RunSession } from '../session/index.ts';
import { NormalSource } from '../simulator/index.ts';

/** What a pilot does with hands and voice. */
export interface Hands {
  move(action: StandInAction): void;
  /** @returns why it was refused, null when it was taken */
  say(payload: Payload): string | null;
}

export interface PilotOptions {
  seed: number;
  /** goes on after it is ready: lifts where the aircraft can, checks the hover, lands, shuts down */
  through?: 'shut-down' | undefined;
  /** how often this pilot tries a start that was stopped and may be tried again; once when missing */
  tries?: number | undefined;
  /** items that this pilot leaves out, and says so */
  skips?: readonly string[] | undefined;
}

/** how long the pilot waits for a reading to agree */
const PATIENCE_S = 8;
/** how long the pilot waits for a stage of a check */
const CHECK_PATIENCE_S = 120;

/**
 * A patient pilot: reads the present item, moves its switches, answers, and does the abort actions when the watch calls
 * for them. Same seed, same acts.
 */
export class PatientPilot {
  private readonly type: TypeFile;
  private readonly hands: Hands;
  private readonly chance: NormalSource;
  private readonly tries: number;
  private readonly through: PilotOptions['through'];
  private readonly skips: ReadonlySet<string>;
  private t_s = 0;
  private actsOn = '';
  private actsAt_s = 0;
  private moved = false;

  constructor(type: TypeFile, hands: Hands, { seed, through, tries, skips }: PilotOptions) {
    this.type = type;
    this.hands = hands;
    this.chance = new NormalSource(seed ^ 0x5eed);
    this.tries = tries ?? 1;
    this.through = through;
    this.skips = new Set(skips);
  }

  /** Looks, and does what is due. @returns whether anything is left to do */
  look(t_s: number, session: RunSession): boolean {
    this.t_s = t_s;
    const { state } = session;
    const item = presentItem(this.type, state);
    if (!item) return this.goesOn(session);
    if (!this.isReady(item, state)) return true;
    if (this.skips.has(item.id)) this.hands.say({ kind: 'item-skipped', item: item.id, reason: 'left out' });
    else if (item.kind === 'measure' && item.trace) this.follow(item, state);
    else if (item.standIn && !this.moved) {
      this.moved = true;
      for (const action of standInActions(item, state)) this.hands.move(action);
    } else this.answer(item, state);
    return true;
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
        this.hands.say({ kind: 'item-fault', item: item.id, note: 'Moved, but not seen to follow' });
      return;
    }
    const refused = this.hands.say(rightAnswer(item, { type: this.type, state }));
    if (refused !== null && this.t_s > this.actsAt_s + PATIENCE_S)
      this.hands.say({ kind: 'item-fault', item: item.id, note: refused });
  }

  /** Nothing is left on the list: begins the next leg, or tries again. @returns false at the end */
  private goesOn(session: RunSession): boolean {
    const { state } = session;
    if (this.triesAgain(session)) return true;
    const [leg] = this.through === 'shut-down' ? legsAhead(this.type, state) : [];
    if (!leg || state.abort || !isFinished(this.type, state)) return false;
    for (const action of leg.standIn ?? []) this.hands.move(action);
    this.hands.say({ kind: 'leg-begun', leg: leg.id, how: 'declared' });
    return true;
  }

  /** @returns whether a start that was stopped is tried again, or waited for */
  private triesAgain(session: RunSession): boolean {
    const { state } = session;
    if (!state.abort || state.triedAgain.length + 1 >= this.tries) return false;
    const starts = session.view().watch?.starts ?? null;
    const next = anotherTry(this.type, state, { entries: session.entries, starts });
    if (next?.verdict === 'open') this.hands.say({ kind: 'try-again', watch: state.abort.watch, items: [] });
    return next?.verdict === 'open' || next?.verdict === 'held';
  }

  /** Does what the present stage of a check says, and records what the check found when it is not good. */
  private follow(item: Extract<Item, { kind: 'measure' }>, state: RunState): void {
    const { id } = item;
    const found = state.measured[id];
    const at = stagesDone(state, item);
    const stage = stagesOf(item)[at];
    if (found && found.verdict !== 'good' && found.attempts > 1)
      this.hands.say({ kind: 'item-fault', item: id, note: found.words });
    else if (this.t_s > this.actsAt_s + CHECK_PATIENCE_S)
      this.hands.say({ kind: 'item-fault', item: id, note: `${stage?.do ?? 'It'}: not seen to follow` });
    else if (!this.moved) {
      this.moved = true;
      for (const action of stage?.standIn ?? []) this.hands.move(action);
      if (stage && !stage.expect)
        this.hands.say({ kind: 'stage-done', item: id, stage: at, value: null, words: stage.do, last: false }); // oxfmt-ignore
    }
  }
}
