import { refuse } from '../acceptance.ts';
import { stagesDone } from '../list.ts';
import type { KindModule } from './kind.ts';
import { rightStage } from './stages.ts';

/** Something is tried in stages, the last of which puts it back. */
export const testKind: KindModule<'test'> = {
  ask: (item, { state }) => ({ kind: 'stage', stage: stagesDone(state, item) }),
  accept: (item) => refuse('not-so', `${item.challenge} ends with its last stage, when everything is back`),
  right: (item, { state }) => rightStage(item, state),
  hands_s: 10,
};
