import { type Item, stagesOf } from '../../aircraft/index.ts';
import type { Payload } from '../entries.ts';
import { stagesDone } from '../list.ts';
import type { RunState } from '../state.ts';

/** The next stage of a test, or moment of a watch, said to be done. */
export function rightStage(item: Item, state: RunState): Payload {
  const stage = stagesDone(state, item);
  const words = stagesOf(item)[stage]?.do ?? '';
  return { kind: 'stage-done', item: item.id, stage, value: null, words, last: false };
}
