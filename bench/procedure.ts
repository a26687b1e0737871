import { type BriefInput, briefOf, emptyBrief } from '@rouse/core/brief';
import { chainEntries, type Draft, type Payload, reduceRun } from '@rouse/core/procedure';
import { largestDeliveryFirst, type Step, uncertainPlan } from '@rouse/core/schedule';
import { contextOf, NOW } from '../core/tests/desk.ts';
import { types } from '../tests/skerry.ts';
import { best, type Line, many } from './measure.ts';

const RUN = '019350aa-0000-7000-8000-000000000001';
const ENTRIES = many(500, 60);
const STEPS = 60;
const WAITS = 12;

/** The three things that answer every tap of a pilot: the journal read, the brief computed, the plan made. */
export function procedure(): Line[] {
  return [reducer(), brief(), schedule()];
}

/** A long run of the largest type: its items done, opened again, done again. */
function reducer(): Line {
  const type = types.find((t) => t.id === 'X14')!;
  const payloads: Payload[] = [
    {
      kind: 'run-opened',
      tail: 'QV-STR',
      type: type.id,
      typeVersion: type.version,
      source: 'by-hand',
      pad: '',
      conditions: '',
    },
  ];
  for (let i = 0; payloads.length < ENTRIES; i++) {
    const item = type.items[i % type.items.length]!.id;
    payloads.push({ kind: 'item-done', item, how: 'declared', value: null, words: '' });
    if (i % 3 === 0) payloads.push({ kind: 'item-reopened', item });
    if (i % 7 === 0) payloads.push({ kind: 'mark', words: 'looked' });
  }
  const drafts = payloads
    .slice(0, ENTRIES)
    .map((payload, i): Draft => ({ id: String(i), at_ms: i * 1000, t_s: i, by: 'pilot', payload }));
  const entries = chainEntries(RUN, undefined, drafts);
  return {
    name: `procedure: a journal of ${ENTRIES} entries replayed`,
    value: best(200, () => reduceRun(entries)) * 1000,
    unit: 'ms',
    wanted: 'at most',
    target: 5,
  };
}

/** The brief of the largest type after a keystroke, spread of the plan included. */
function brief(): Line {
  const type = types.find((t) => t.id === 'X14')!;
  const context = contextOf(type.id);
  const input = (oat_C: number): BriefInput => ({
    ...emptyBrief(type),
    wind: { direction_deg: 240, from_deg: null, to_deg: null, speed_kt: 12, gust_kt: 21 },
    oat_C,
    dew_C: 1,
    qnh_hPa: 1008,
    observedAt: NOW,
    heading_deg: 30,
    fuel_kg: 1400,
    flight_min: 60,
  });
  let keystroke = 0;
  return {
    name: 'brief: everything computed again after a keystroke',
    value: best(100, () => briefOf(input(keystroke++ % 20), context)) * 1000,
    unit: 'ms',
    wanted: 'at most',
    target: 16,
  };
}

/** Sixty items of which every fifth is a wait whose length is not known, spread drawn 2,000 times. */
function schedule(): Line {
  const every = STEPS / WAITS;
  const steps = Array.from({ length: STEPS }, (_, i): Step => {
    const id = `s${i}`;
    return i % every === 0
      ? { id, kind: 'wait', deps: i === 0 ? [] : [`s${i - 1}`], dur: { mu: Math.log(40 + i), sigma: 0.3 } }
      : { id, kind: 'crew', deps: i > every && i % every === 1 ? [`s${i - every - 1}`] : [], dur: { fixed: 6 } };
  });
  return {
    name: `schedule: ${STEPS} items, ${WAITS} of them waits of unknown length, order and spread`,
    value: best(30, () => uncertainPlan({ steps, crew_order: largestDeliveryFirst(steps) })) * 1000,
    unit: 'ms',
    wanted: 'at most',
    target: 50,
    remark: '2,000 draws',
  };
}
