import { type Item, stagesOf } from '../aircraft/index.ts';
import { itemState, type OpenLoop, stagesDone, stillOpen } from '../procedure/index.ts';
import type { DrillFlight } from './drill-flight.ts';
import { itemsOfLesson } from './lesson-items.ts';
import { type DrillMarks, marksOf } from './marks.ts';

/** One line of what was done. */
export interface DoneLine {
  t_s: number;
  words: string;
  /** null where it was simply right */
  wrong: string | null;
  of: string;
}

/** Everything that the screen of a drill shows, beside its frames. */
export interface DrillView {
  /** since the lesson began, s */
  since_s: number;
  /** run clock when the lesson began, s */
  begun_s: number;
  present: string | null;
  /** what the present stage of a test or a check asks for, null where there is none */
  stage: string | null;
  /** whole seconds for which the present item is held, null where it is not */
  held_s: number | null;
  /** where each control stands: of a lever along its way, of others the place of its position */
  positions: Record<string, number>;
  /** items that are settled */
  settled: string[];
  open: OpenLoop['words'][];
  done: DoneLine[];
  /** without what is still to be done */
  marks: DrillMarks;
  legs: { id: string; label: string }[];
  stopped: boolean;
  over: boolean;
}

/** How a drill stands. A millisecond; ten times a second is often enough. */
export function viewOf(flight: DrillFlight): DrillView {
  const { type, hands, session } = flight;
  const { state } = session;
  const flown = flight.flown();
  const marks = marksOf(flown, null, { soFar: !flight.over });
  const items = itemsOfLesson(flown);
  const present = flight.present;
  const heldSince_s = flight.holds.sinceOf(present?.id ?? null);
  return {
    since_s: flight.t_s - flight.begun_s,
    begun_s: flight.begun_s,
    present: present?.id ?? null,
    // the moments of a start are only tapped where nothing senses them
    stage: present && present.kind !== 'watch' ? (stagesOf(present)[stagesDone(state, present)]?.do ?? null) : null,
    held_s: heldSince_s === null ? null : Math.floor(flight.t_s - heldSince_s),
    positions: Object.fromEntries(hands.controls.map((c) => [c.id, hands.positionOf(c)])),
    settled: items.filter((i) => itemState(state, i.id).status !== 'todo').map((i) => i.id),
    open: stillOpen(type, state).map((loop) => loop.words),
    done: doneLines(flight, items, marks),
    marks,
    legs: flight.legsAhead().map(({ id, verb, label }) => ({ id, label: verb ?? label })),
    stopped: state.abort !== null,
    over: flight.over,
  };
}

function doneLines(flight: DrillFlight, items: readonly Item[], marks: DrillMarks): DoneLine[] {
  const { state } = flight.session;
  const wrongOf = (id: string): string | null =>
    marks.losses.find((l) => l.criterion === 'order' && l.of === id)?.words ?? null;
  const done = items.flatMap((item): DoneLine[] => {
    const { status, t_s, words } = itemState(state, item.id);
    if (status === 'todo') return [];
    const said = status === 'fault' ? 'not good' : words;
    return [{ t_s, words: said === '' ? item.challenge : `${item.challenge}: ${said}`, wrong: wrongOf(item.id), of: item.id }]; // oxfmt-ignore
  });
  const noted = flight.notes.map(({ t_s, kind, words, of }): DoneLine => ({ t_s, words, wrong: NOTE_WORDS[kind], of }));
  return [...done, ...noted]
    .map((line) => ({ ...line, t_s: Math.max(0, line.t_s - flight.begun_s) }))
    .toSorted((a, b) => a.t_s - b.t_s);
}

const NOTE_WORDS = {
  stray: 'nothing asked for it',
  early: 'too early',
  refused: 'not so',
  hint: 'hint',
  stopped: 'stop',
  armed: 'armed by the instructor',
} as const;
