import type { AircraftToday, Today } from '@rouse/core/contract';
import { dayAndTime } from '../../ui/words.ts';

/** What a row of Today says last: what wants attention, and the one way on. */
export interface Attention {
  /** 0 first */
  rank: number;
  weight: 'warning' | 'now' | 'caution' | null;
  title: string;
  words: string;
  way: { label: string; to: string };
}

/** so long after its end a run waits to be read back */
const DEBRIEF_FOR_MS = 2 * 3_600_000;

/** What holds an aircraft, or wants a look, by the weightiest thing. @param mayRelease whether whoever looks may release */
export function attentionOf(a: AircraftToday, now: string, mayRelease: boolean): Attention {
  const brief = { label: 'Brief', to: `/brief/${a.aircraft}` };
  const held = heldBy(a, mayRelease);
  if (a.running) {
    const way = { label: 'Go on', to: `/start/${a.openRun}` };
    return held ? { ...held, rank: 0, way } : { rank: 1, weight: 'now', title: 'Nothing holds it', words: `${a.running.pilot} works it.`, way }; // oxfmt-ignore
  }
  if (held) return held;
  const [last] = a.recent;
  if (last?.closedAt && Date.parse(now) - Date.parse(last.closedAt) < DEBRIEF_FOR_MS)
    return { rank: 2, weight: 'caution', title: 'Debrief is waiting', words: `Closed ${dayAndTime(last.closedAt)}.`, way: { label: 'Debrief', to: `/debrief/${last.run}` } }; // oxfmt-ignore
  const noted = noteOf(a);
  return noted
    ? { rank: 2, weight: 'caution', ...noted, way: brief }
    : { rank: 3, weight: null, ...clearOf(a.allows), way: brief };
}

/** What can be said where nothing is found that holds it: what nobody knows is not all clear. */
function clearOf(allows: AircraftToday['allows']): Pick<Attention, 'title' | 'words'> {
  if (allows === null) return { title: 'Not known yet', words: 'What today allows is being worked out.' };
  const { rotorWind, power, engineOut } = allows;
  const named = [['rotor wind', rotorWind], ['power', power], ['engine out', engineOut]] as const; // oxfmt-ignore
  const unknown = named.flatMap(([name, of]) => (of?.nearness === 'unknown' ? [name] : []));
  return unknown.length === 0
    ? { title: 'Nothing holds it', words: '' }
    : { title: 'Nothing known holds it', words: `Not known: ${unknown.join(', ')}.` };
}

function heldBy(a: AircraftToday, mayRelease: boolean): Attention | null {
  const held = (title: string, words: string, way: Attention['way']): Attention => ({ rank: 0, weight: 'warning', title, words, way }); // oxfmt-ignore
  if (a.setAside)
    return held('A run is set aside', a.setAside.reason, { label: 'Look', to: `/debrief/${a.setAside.run}` });
  if (a.exceedance) {
    const { run, seq, title, at } = a.exceedance;
    const more = a.openExceedances > 1 ? ` and ${a.openExceedances - 1} more` : '';
    const waits = mayRelease ? 'It waits for your release.' : 'It waits for an engineer.';
    return held('Open exceedance', `${title}${more}, ${dayAndTime(at)}. ${waits}`, { label: mayRelease ? 'Release' : 'Look', to: `/log/exceedances/${run}/${seq}` }); // oxfmt-ignore
  }
  const past = a.due.find((d) => d.holds && d.state !== 'soon');
  if (past) return held(`${past.title} is due`, `${past.words}.`, { label: 'Books', to: `/log/${a.aircraft}/books` });
  const stops = a.allows?.objections.find((o) => o.severity === 'no-go');
  if (stops) return held(stops.title, stops.words, { label: 'Brief', to: `/brief/${a.aircraft}` }); // oxfmt-ignore
  return null;
}

function noteOf(a: AircraftToday): { title: string; words: string } | null {
  const [finding] = a.findings ?? [];
  if (finding) return { title: 'Look at it', words: finding };
  const due = a.due.find((d) => d.state !== 'past') ?? a.due[0];
  if (due) return { title: `${due.title} ${due.state === 'soon' ? 'falls due' : 'is due'}`, words: `${due.words}.` };
  if (a.defects > 0) return { title: a.defects === 1 ? 'A defect is open' : `${a.defects} defects are open`, words: 'The brief says what it forbids.' }; // oxfmt-ignore
  const caution = a.allows?.objections[0];
  return caution ? { title: caution.title, words: caution.words } : null;
}

/** Aircraft with what wants attention, the weightiest first, then by tail. */
export function byAttention(today: Today, mayRelease: boolean): { aircraft: AircraftToday; attention: Attention }[] {
  return today.aircraft
    .map((aircraft) => ({ aircraft, attention: attentionOf(aircraft, today.now, mayRelease) }))
    .toSorted((a, b) => a.attention.rank - b.attention.rank || a.aircraft.tail.localeCompare(b.aircraft.tail));
}
