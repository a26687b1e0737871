import { stagesOf } from '../../aircraft/index.ts';
import { type Acceptance, refuse } from '../acceptance.ts';
import { stagesDone } from '../list.ts';
import { predictedHover } from '../predicted-hover.ts';
import type { RunState } from '../state.ts';
import { type ItemOf, type KindModule, middle, remedyOf, saysDone } from './kind.ts';
import { acceptNumber } from './number.ts';

/** A check with figures: measured from the readings where they are, read and typed where they are not. */
export const measureKind: KindModule<'measure'> = {
  ask(item, { state }) {
    if (!item.trace || state.source === 'by-hand') return { kind: 'number', quantity: item.measures };
    const stage = stagesDone(state, item);
    return { kind: 'measured', stage, sensed: stagesOf(item)[stage]?.expect !== undefined };
  },
  accept(item, answering) {
    const { type, state, values } = answering;
    const refused = item.trace && state.source !== 'by-hand' && refuseUnmeasured(state, item);
    if (refused) return refused;
    const predicted = item.measures.predicted ? predictedHover(type, state, values) : null;
    return acceptNumber(item, item.measures, predicted ?? item.measures.good, answering);
  },
  right: (item, { type, state }) =>
    saysDone(item, middle((item.measures.predicted && predictedHover(type, state, null)) || item.measures.good)),
  hands_s: 15,
};

/** A check that the trace measures is not taken at a person's word, unless the trace could not say. */
function refuseUnmeasured(state: RunState, item: ItemOf<'measure'>): Acceptance | null {
  const found = state.measured[item.id];
  if (found?.verdict === 'unknown') return null;
  if (found?.verdict === 'fault') return refuse('not-so', `${item.challenge}: ${found.words}. ${remedyOf(item)}`);
  const next = stagesOf(item)[stagesDone(state, item)];
  return refuse('not-so', `${item.challenge} is measured from the readings: ${next?.do ?? 'the last stage'} is next`);
}
