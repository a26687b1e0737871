import { type Acceptance, refuse } from '../acceptance.ts';
import type { Payload } from '../entries.ts';
import { powerNow, sayPower } from '../power-now.ts';
import { briefedWind, rotorWindNow, windPhaseOf } from '../rotor-wind.ts';
import { type Answering, done, type ItemOf, type KindModule, saysDone } from './kind.ts';
import { acceptNumber, rightNumber } from './number.ts';
import { acceptSensed } from './sensed.ts';

/** where a brief says no wind */
const LIGHT_WIND = { direction_deg: null, speed_kt: 4, gust_kt: null };

/** Something is looked at; some are judged by the program from this minute's wind or weight. */
export const checkKind: KindModule<'check'> = {
  ask(item) {
    const phase = windPhaseOf(item);
    if (phase) return { kind: 'wind', phase };
    return item.reads ? { kind: 'number', quantity: item.reads } : { kind: 'word', word: 'seen' };
  },
  accept(item, answering) {
    if (item.judges === 'power') return acceptPower(item, answering);
    if (item.judges) return acceptRotorWind(item, answering);
    return item.reads ? acceptNumber(item, item.reads, null, answering) : acceptSensed(item, answering);
  },
  right(item, { state }) {
    if (windPhaseOf(item)) return { ...saysDone(item), wind: briefedWind(state.brief) ?? LIGHT_WIND };
    return saysDone(item, item.reads ? rightNumber(item.reads, state.brief) : null);
  },
  hands_s: 4,
};

/** The wind of this minute: what was entered, else what the brief had. Beyond a limit, and unknown, the rotor stays still. */
function acceptRotorWind(item: ItemOf<'check'>, { type, state, wanted }: Answering): Acceptance {
  const { wind } = wanted;
  const judged = rotorWindNow(type, state.brief, wind ?? briefedWind(state.brief), windPhaseOf(item) ?? 'start');
  if (judged.verdict === 'UNKNOWN')
    return refuse('not-so', `${item.challenge}: ${judged.words}. Enter the wind of this minute`);
  if (judged.verdict === 'EXCEEDS')
    return refuse('not-so', `${item.challenge}: ${judged.words}. Wait, or turn the aircraft`);
  const words = judged.verdict === 'CAUTION' ? `${judged.words}, close to the limit` : judged.words;
  const accepted = done(item, wanted, words, judged.wind_kt);
  return accepted.ok && wind ? { ok: true, payload: { ...accepted.payload, wind } as Payload } : accepted;
}

/** A hover has to be left at the weight of this minute; what is not known is not taken for granted. */
function acceptPower(item: ItemOf<'check'>, { type, state, wanted, values }: Answering): Acceptance {
  // practice without a brief has no weight to judge
  if (!state.brief) return done(item, wanted, 'not computed: there is no brief', null);
  const now = powerNow(type, state, values, state.phases.at(-1)?.t_s ?? 0);
  const { words, hovers } = sayPower(now);
  if (hovers === true && 'high' in now) return done(item, wanted, words, now.high.margin);
  const remedy =
    hovers === false ? 'Get lighter, or wait for colder air' : 'Skip it with a reason, and look at the chart';
  return refuse('not-so', `${item.challenge}: ${words}. ${remedy}`);
}
