import { refuse } from '../acceptance.ts';
import { finalScan, notReadyBecause } from '../final-scan.ts';
import { done, type KindModule, saysDone } from './kind.ts';

/** Something is said aloud; the last one only when every line of the last look is ready. */
export const callKind: KindModule<'call'> = {
  ask: () => ({ kind: 'word', word: 'called' }),
  accept(item, { type, state, wanted, values }) {
    if (item.judges === 'final-scan') {
      const line = notReadyBecause(finalScan(type, state, values, state.phases.at(-1)?.t_s ?? 0));
      if (line) return refuse('not-so', `${item.challenge}: not yet. ${line.label}: ${line.words}`);
    }
    return done(item, wanted, '', null);
  },
  right: (item) => saysDone(item),
  hands_s: 5,
};
