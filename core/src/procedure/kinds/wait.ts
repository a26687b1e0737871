import { sayCondition } from '../../aircraft/index.ts';
import { refuse } from '../acceptance.ts';
import { readItem } from '../reading.ts';
import { type KindModule, saysDone } from './kind.ts';
import { acceptSensed } from './sensed.ts';

/** Something is waited for: sensors settle it, a person only where they cannot. */
export const waitKind: KindModule<'wait'> = {
  ask: () => ({ kind: 'word', word: 'seen' }),
  accept(item, answering) {
    const reading = readItem(answering.type, item, answering.values);
    if (!reading || reading.verdict === 'unknown') return acceptSensed(item, answering);
    const until = sayCondition(item.until, answering.type.channels);
    return refuse('not-so', `${item.challenge} settles itself when it has lasted: ${until}. Or skip it with a reason`);
  },
  right: (item) => saysDone(item),
  hands_s: 0,
};
