import type { Item, Stage, TypeFile } from '../aircraft/index.ts';
import { stagesDone } from './list.ts';
import type { RunState } from './state.ts';

export interface HandMoment {
  stage: Stage;
  /** since the first moment, s; null while it has not been tapped */
  at_s: number | null;
  verdict: 'in-time' | 'late' | 'next' | 'ahead';
  /** run clock by which the next moment must come, null where nothing says */
  due_s: number | null;
}

/** A start that is timed by hand: its moments against their deadlines, and what nobody could judge. */
export interface HandStart {
  moments: HandMoment[];
  /** run clock of the first moment, null before it */
  began_s: number | null;
  notJudged: readonly string[];
}

/** What hands and eyes do not see, said plainly beside what they do. */
const UNSEEN = {
  turbine: [
    'time above each temperature, and a peak between two looks',
    'a speed that hangs for a second or two',
    'the lowest volts under the starter',
    'rotor and oil by their speed: only by their time',
  ],
  piston: ['the highest engine speed as it fires', 'the lowest volts under the starter', 'the charging current'],
} as const;

/** How this start stands by what was tapped; null for an item that has no moments. */
export function handStart(type: TypeFile, state: RunState, item: Item): HandStart | null {
  if (item.kind !== 'watch' || !item.moments) return null;
  const tapped = state.stages[item.id] ?? [];
  const done = stagesDone(state, item);
  const began_s = tapped[0] ?? null;
  const kind = type.engines[0]!.kind;
  return {
    began_s,
    notJudged: UNSEEN[kind],
    moments: item.moments.map((stage, i) => {
      const t = i < done ? tapped[i]! : null;
      const before = i > 0 ? tapped[i - 1] : undefined;
      const within = stage.within_s;
      const late = t !== null && within !== undefined && before !== undefined && t - before > within;
      return {
        stage,
        at_s: t === null || began_s === null ? null : t - began_s,
        verdict: t !== null ? (late ? 'late' : 'in-time') : i === done ? 'next' : 'ahead',
        due_s: t === null && i === done && within !== undefined && before !== undefined ? before + within : null,
      };
    }),
  };
}
