import { refuse } from '../acceptance.ts';
import { ruledAnswer } from '../decision-rule.ts';
import type { KindModule } from './kind.ts';

/** One of several answers is chosen; where the type has a rule, the day says which. */
export const decideKind: KindModule<'decide'> = {
  ask: (item) => ({ kind: 'choice', alternatives: item.alternatives }),
  accept: (item) => refuse('not-so', `${item.challenge}: choose one of the answers`),
  right(item, { state }) {
    const ruled = ruledAnswer(item, state.brief);
    const last = item.alternatives[item.alternatives.length - 1]!;
    const { id, label } = item.alternatives.find((a) => a.id === ruled?.alternative) ?? last;
    return { kind: 'decided', item: item.id, alternative: id, reason: ruled?.words ?? label };
  },
  hands_s: 5,
};
