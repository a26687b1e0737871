import { holdSeconds, type Item, stagesOf, type TypeFile } from '../aircraft/index.ts';
import {
  briefedWind,
  expectedFigure,
  predictedHover,
  ruledAnswer,
  type Payload,
  type RunState,
  stagesDone,
  twoCrewTurn,
  windPhaseOf,
} from '../procedure/index.ts';

/** where a brief says no wind */
const LIGHT_WIND = { direction_deg: null, speed_kt: 4, gust_kt: null };

const middle = ([low, high]: readonly [number, number]): number => Math.round((low + high) / 2);

/** What a pilot who finds everything as it should be writes next on an item; a test or a comparison may take several. */
export function rightAnswer(type: TypeFile, state: RunState, item: Item): Payload {
  if (twoCrewTurn(type, state, item)?.turn === 'challenge') return { kind: 'challenged', item: item.id };
  const stages = stagesOf(item);
  if (stages.length > 0 && item.kind !== 'measure') {
    const stage = stagesDone(state, item);
    return { kind: 'stage-done', item: item.id, stage, value: null, words: stages[stage]?.do ?? '', last: false };
  }
  const done = (value: number | null): Payload => ({
    kind: 'item-done',
    item: item.id,
    how: 'declared',
    value,
    words: '',
  });
  switch (item.kind) {
    case 'decide': {
      const ruled = ruledAnswer(item, state.brief);
      const last = item.alternatives[item.alternatives.length - 1]!;
      const { id, label } = item.alternatives.find((a) => a.id === ruled?.alternative) ?? last;
      return { kind: 'decided', item: item.id, alternative: id, reason: ruled?.words ?? label };
    }
    case 'compare':
      return { kind: 'item-done', item: item.id, how: 'declared', value: null, words: '', read: ['A7', 'A7'] };
    case 'enter': {
      const { against, range } = item.enters;
      return done((against && expectedFigure(state.brief, against.figure)) ?? middle(range));
    }
    case 'measure':
      return done(middle((item.measures.predicted && predictedHover(type, state, null)) || item.measures.good));
    case 'hold':
      return done(holdSeconds(item, state.brief?.oat_C ?? null));
    case 'check':
      if (windPhaseOf(item)) return { ...done(null), wind: briefedWind(state.brief) ?? LIGHT_WIND } as Payload;
      return done(
        item.reads ? (expectedFigure(state.brief, item.reads.against.figure) ?? middle(item.reads.range)) : null,
      );
    default:
      return done(null);
  }
}
