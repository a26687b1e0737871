import { type Item, sayCondition, type TypeFile } from '../../aircraft/index.ts';
import { type Acceptance, refuse } from '../acceptance.ts';
import { conditionOf, readItem, readTyped } from '../reading.ts';
import { type Answering, done, remedyOf } from './kind.ts';

/** A word that sensors may deny: taken when they agree, or cannot say; refused with the reading when they do not. */
export function acceptSensed(item: Item, { type, wanted, values }: Answering): Acceptance {
  const reading = readItem(type, item, values);
  if (!reading) return done(item, wanted, '', null);
  if (reading.verdict === 'unknown') {
    const typed = wanted.value;
    const byEye = typed === null ? null : readTyped(type, item, typed);
    if (!byEye) return done(item, wanted, `${reading.words}, declared`, reading.value);
    if (byEye.verdict === true) return done(item, wanted, `${byEye.words}, read by eye`, typed);
    return refuse('not-so', notAsExpected(type, item, byEye.words));
  }
  if (reading.verdict) return done(item, wanted, reading.words, reading.value);
  return refuse('not-so', notAsExpected(type, item, reading.words));
}

function notAsExpected(type: TypeFile, item: Item, found: string): string {
  const wanted = item.kind === 'count' ? item.response : sayCondition(conditionOf(item)!, type.channels);
  return `${item.challenge}: ${found}; expected ${wanted}. ${remedyOf(item)}`;
}
