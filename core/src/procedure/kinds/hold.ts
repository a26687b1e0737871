import { holdSeconds } from '../../aircraft/index.ts';
import { refuse } from '../acceptance.ts';
import { done, type KindModule, saysDone } from './kind.ts';
import { acceptSensed } from './sensed.ts';

/** a hand that lets go this little early has held it */
const HAND_S = 0.05;

/** Something is pressed and held for its time. */
export const holdKind: KindModule<'hold'> = {
  ask: (item, { state }) => ({ kind: 'hold', hold_s: holdSeconds(item, state.brief?.oat_C ?? null) }),
  accept(item, answering) {
    const held_s = answering.wanted.value ?? 0;
    const asked_s = holdSeconds(item, answering.state.brief?.oat_C ?? null);
    if (held_s < asked_s - HAND_S)
      return refuse(
        'not-so',
        `${item.challenge}: hold for ${asked_s.toFixed(1)} s; it was ${held_s.toFixed(1)} s. Press and hold again`,
      );
    return item.expect ? acceptSensed(item, answering) : done(item, answering.wanted, `${held_s.toFixed(1)} s`, held_s);
  },
  right: (item, { state }) => saysDone(item, holdSeconds(item, state.brief?.oat_C ?? null)),
  hands_s: 5,
};
