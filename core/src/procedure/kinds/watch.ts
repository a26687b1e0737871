import { refuse } from '../acceptance.ts';
import { stagesDone } from '../list.ts';
import { type KindModule, saysDone } from './kind.ts';
import { rightStage } from './stages.ts';

/** A start, or a run-up, that is watched; by hand its moments are tapped. */
export const watchKind: KindModule<'watch'> = {
  ask: (item, { state }) =>
    item.moments && state.source === 'by-hand' ? { kind: 'stage', stage: stagesDone(state, item) } : { kind: 'sensed' },
  accept: (item) =>
    item.moments
      ? refuse(
          'not-so',
          `${item.challenge} is ended by the watch, or by its last moment. Stop the start if it must end`,
        )
      : refuse('not-so', 'The watch itself ends this item. Stop the start if it must end'),
  right: (item, { state }) => (item.moments ? rightStage(item, state) : saysDone(item)),
  hands_s: 0,
};
