import type { Item, ItemKind } from '../../aircraft/index.ts';
import type { Acceptance } from '../acceptance.ts';
import type { Payload } from '../entries.ts';
import { twoCrewTurn } from '../plan.ts';
import { briefKind } from './brief.ts';
import { callKind } from './call.ts';
import { checkKind } from './check.ts';
import { compareKind } from './compare.ts';
import { countKind } from './count.ts';
import { decideKind } from './decide.ts';
import { enterKind } from './enter.ts';
import { holdKind } from './hold.ts';
import type { Answering, Ask, KindModule, Situation } from './kind.ts';
import { measureKind } from './measure.ts';
import { setKind } from './set.ts';
import { testKind } from './test.ts';
import { waitKind } from './wait.ts';
import { watchKind } from './watch.ts';

/** Every kind of item; one that is missing does not compile. */
const KINDS: { [K in ItemKind]: KindModule<K> } = {
  set: setKind,
  check: checkKind,
  count: countKind,
  compare: compareKind,
  test: testKind,
  hold: holdKind,
  wait: waitKind,
  watch: watchKind,
  measure: measureKind,
  enter: enterKind,
  decide: decideKind,
  call: callKind,
  brief: briefKind,
};

const kindOf = (item: Item): KindModule<ItemKind> => KINDS[item.kind] as KindModule<ItemKind>;

/** What the card wants of a person for this item. */
export function askOf(item: Item, situation: Situation): Ask {
  return kindOf(item).ask(item, situation);
}

/** Judges an answer to an item: against its sensors, what was typed, the brief, or what the program computes itself. */
export function acceptDone(item: Item, answering: Answering): Acceptance {
  return kindOf(item).accept(item, answering);
}

/** What a pilot who finds everything as it should be writes next on an item; a test or a comparison may take several. */
export function rightAnswer(item: Item, situation: Situation): Payload {
  if (twoCrewTurn(situation.type, situation.state, item)?.turn === 'challenge')
    return { kind: 'challenged', item: item.id };
  return kindOf(item).right(item, situation);
}

/** The usual time of the hands, s. */
export function handsOf(item: Item): number {
  return item.hands_s ?? kindOf(item).hands_s;
}
