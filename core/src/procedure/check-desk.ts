import { type Item, Sensed, type TypeFile } from '../aircraft/index.ts';
import {
  type CheckHabit,
  CheckMachine,
  type CheckResult,
  type CheckSnapshot,
  type CheckVerdict,
  NO_HABIT,
} from '../checks/index.ts';
import type { Payload } from './entries.ts';
import { nextRestoring, type OpenLoop, stagesDone } from './list.ts';
import { situationNow } from './situation-now.ts';
import { itemState, type RunState } from './state.ts';

/** What the screen is about, and what is out of its place. */
interface Looked {
  present: Item | null;
  open: readonly OpenLoop[];
}

/** What this tail's own past says, for its next checks. */
export interface Learned {
  checks: CheckHabit;
  /** torque that its hovers took more than predicted, % */
  hoverOffset_pct: number;
}

export const NOTHING_LEARNED: Learned = { checks: NO_HABIT, hoverOffset_pct: 0 };

type Check = Extract<Item, { kind: 'measure' }>;

/**
 * The checks of a run that are measured: opens one when its item is looked at, feeds it every frame, and turns what it
 * finds into entries. What a check that was given up has moved is watched until it is back.
 */
export class CheckDesk {
  private readonly type: TypeFile;
  private readonly learned: Learned;
  private machine: CheckMachine | null = null;
  private written = 0;
  private readonly restoring = new Map<string, Sensed>();
  /** what has been written and the journal need not show yet: attempts by item, and stages of attempts that are back */
  private readonly attempts = new Map<string, number>();
  private readonly isBack = new Set<string>();

  constructor(type: TypeFile, learned: Learned) {
    this.type = type;
    this.learned = learned;
  }

  /** @returns true when a stage has been completed or the check has ended */
  frame(t_s: number, values: ArrayLike<number>): boolean {
    return this.machine?.step(t_s, values) ?? false;
  }

  snapshot(): CheckSnapshot | null {
    return this.machine?.snapshot() ?? null;
  }

  /** @returns stages that were completed, what a check found, and what has been put back */
  observe(t_s: number, { present, open }: Looked, values: ArrayLike<number>, state: RunState): Payload[] {
    const out = this.putBack(t_s, open, values, state);
    const { machine } = this;
    if (machine) {
      const item = this.type.items.find((i): i is Check => i.id === machine.item)!;
      if (stagesDone(state, item) > this.written) machine.declare();
      out.push(...this.progress(machine, item));
      if (machine.result) this.attempts.set(item.id, (state.measured[item.id]?.attempts ?? 0) + 1);
      const over = machine.result !== null || itemState(state, item.id).status !== 'todo';
      if (over || (item !== present && machine.stage === 0)) this.machine = null;
    }
    if (!this.machine && this.isWanted(present, open, state)) {
      const again = present.id in state.measured;
      const situation = situationNow(this.type, state, t_s, this.learned.hoverOffset_pct);
      this.machine = new CheckMachine(this.type, present.id, present.trace!, this.learned.checks, again, situation);
      this.written = 0;
    }
    return out;
  }

  /** A check is begun when its item is present, and begun again only when everything is back from the last time. */
  private isWanted(present: Item | null, open: readonly OpenLoop[], state: RunState): present is Check {
    return (
      present?.kind === 'measure' &&
      present.trace !== undefined &&
      (this.attempts.get(present.id) ?? 0) <= (state.measured[present.id]?.attempts ?? 0) &&
      !isPassed(state.measured[present.id]?.verdict) &&
      !open.some((loop) => loop.item === present)
    );
  }

  private progress(machine: CheckMachine, item: Check): Payload[] {
    const out: Payload[] = [];
    for (; this.written < machine.stage; this.written++) {
      const { do: words } = item.trace!.stages[this.written]!;
      out.push({ kind: 'stage-done', item: item.id, stage: this.written, value: null, words, last: false });
    }
    if (machine.result) out.push(...entriesOf(item, machine.result));
    return out;
  }

  /** Seen to be back in its place, though the check that moved it has ended. */
  private putBack(t_s: number, open: readonly OpenLoop[], values: ArrayLike<number>, state: RunState): Payload[] {
    return open.flatMap(({ item }): Payload[] => {
      if (item.kind !== 'measure' || this.machine?.item === item.id) return [];
      // one after the other: of two switches, one that is on says nothing of the other
      const at = nextRestoring(item, state.stages[item.id]?.length ?? 0)!;
      const { expect, do: words } = item.trace!.stages[at]!;
      const step = `${item.id}/${state.measured[item.id]?.attempts ?? 0}/${at}`;
      if (!expect || this.isBack.has(step)) return [];
      const sensed = this.restoring.get(step) ?? new Sensed(expect, this.type.channels);
      this.restoring.set(step, sensed);
      if (sensed.update(t_s, values) !== true) return [];
      this.restoring.delete(step);
      this.isBack.add(step);
      return [{ kind: 'stage-done', item: item.id, stage: at, value: null, words, last: false }];
    });
  }
}

/** What a check found does not hold its item. */
const isPassed = (verdict: CheckVerdict | undefined): boolean => verdict === 'good' || verdict === 'unusual';

const finite = (v: number): number | null => (Number.isFinite(v) ? v : null);

function entriesOf(item: Check, result: CheckResult): Payload[] {
  const { check, verdict, cause, words, from_s, to_s } = result;
  const figures = result.figures.map((f) => ({
    id: f.id,
    label: f.label,
    unit: f.unit,
    decimals: f.decimals,
    value: f.value,
    good: [f.good[0], f.good[1]] as [number | null, number | null],
    verdict: f.verdict,
    words: f.finding?.words ?? null,
    from_s: finite(f.from_s),
    to_s: finite(f.to_s),
  }));
  const measured: Payload = { kind: 'measured', item: item.id, check, verdict, cause, words, figures, from_s, to_s };
  if (!isPassed(verdict)) return [measured];
  const value = figures[0]?.value ?? null;
  return [measured, { kind: 'item-done', item: item.id, how: 'sensed', value, words }];
}
