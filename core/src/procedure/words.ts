import type { TypeFile } from '../aircraft/index.ts';
import type { Entry } from './entries.ts';
import { findItem } from './state.ts';

export interface EntryWords {
  title: string;
  detail: string;
  /** a line that asks for attention when a run is read back */
  stands: boolean;
}

const OUTCOMES = {
  ready: 'Closed, ready for lift',
  'shut-down': 'Closed, shut down',
  aborted: 'Closed after the abort',
  'given-up': 'Closed, given up',
  recorded: 'End of the recording',
} as const;

const RATINGS = {
  PERIOD_START: 'use begins',
  PERIOD_END: 'use ends',
  PERIOD_EXPIRED: 'longer than permitted',
  NO_PERIODS_LEFT: 'no use was left',
  OVER_MAXIMUM: 'above the maximum',
  GAP_ESTIMATED: 'data lost while it was in use: booked as if it went on',
  GAP_BLIND: 'data lost: what was used then is not known',
} as const;

/** One journal entry as a person would tell it. @returns null for what only the program needs */
export function sayEntry(type: TypeFile, entry: Entry): EntryWords | null {
  const plain = (title: string, detail = ''): EntryWords => ({ title, detail, stands: false });
  const stands = (title: string, detail = ''): EntryWords => ({ title, detail, stands: true });
  const name = (id: string): string => findItem(type, id)?.challenge ?? id;
  switch (entry.kind) {
    case 'run-opened':
      return plain('Run opened', entry.conditions);
    case 'item-done': {
      const words = [entry.words, entry.how === 'sensed' ? 'sensed' : ''].filter(Boolean).join(', ');
      return entry.differs
        ? stands(`${name(entry.item)} differed from the flow`, words)
        : plain(name(entry.item), words);
    }
    case 'stage-done':
      return entry.by === 'watch' ? null : plain(name(entry.item), entry.words);
    case 'measured': {
      const title = name(entry.item);
      return entry.verdict === 'good'
        ? null
        : stands(`${title}: ${entry.verdict === 'fault' ? 'not good' : entry.verdict}`, entry.words);
    }
    case 'decided':
      return plain(`${name(entry.item)}: ${sayDecision(type, entry)}`, entry.reason);
    case 'zone-flowed':
      return plain(`Flow: ${entry.zone}`, 'walked from memory');
    case 'interrupted':
      return stands('Interrupted', entry.words);
    case 'reseen':
      return plain(`${name(entry.item)} seen again`);
    case 'briefed':
      return plain('Brief', entry.brief.words);
    case 'way-changed':
      return stands(sayWay(type, entry), entry.reason);
    case 'item-fault':
      return stands(`Fault: ${name(entry.item)}`, entry.note);
    case 'item-skipped':
      return stands(`${name(entry.item)} skipped`, `“${entry.reason}”`);
    case 'item-reopened':
      return plain(`Back to ${name(entry.item).toLowerCase()}`);
    case 'undone':
      return plain('Undone', 'the entry before it');
    case 'handed-over':
      return stands(`${entry.to} has taken over`, `from ${entry.from}`);
    case 'mark':
      return stands('Marked', entry.words);
    case 'note':
      return stands(entry.about_s === undefined ? 'Note' : `Note, about ${sayClock(entry.about_s)}`, entry.text);
    case 'start-state':
      return entry.state === 'aborted' ? null : plain(entry.words);
    case 'abort':
      return stands(`Abort: ${type.aborts[entry.reason]?.title.toLowerCase() ?? entry.reason}`, entry.text);
    case 'cue':
      return entry.severity === 'call' ? null : stands(entry.text);
    case 'exceedance':
      return sayExceedance(type, entry);
    case 'leg-begun': {
      const leg = type.legs.find((l) => l.id === entry.leg);
      return plain(leg?.label ?? entry.leg, entry.how === 'sensed' ? 'seen to begin' : 'begun by the pilot');
    }
    case 'rating':
      return { title: `${entry.label}, engine ${entry.engine}`, detail: RATINGS[entry.event], stands: entry.event !== 'PERIOD_END' }; // oxfmt-ignore
    case 'try-again':
      return stands('Another try', entry.items.map(name).join(', '));
    case 'closed':
      return plain(OUTCOMES[entry.outcome]);
    case 'trace-thinned':
      return plain(...sayThinned(entry));
    case 'challenged':
    case 'item-chosen':
    case 'start-done':
    case 'trace-sealed':
    case 'run-up-done':
    case 'phase':
      return null;
  }
}

const sayThinned = ({
  perSecond,
  whole,
}: Extract<Entry, { kind: 'trace-thinned' }>): [title: string, detail: string] => [
  perSecond > 0 ? `Readings are kept with ${perSecond} rows a second` : 'Readings are not kept any more',
  whole.length > 0 ? 'every frame around what held a start stays' : 'figures and journal stay',
];

/** "1:23": whole seconds that have passed. */
export const sayClock = (s: number): string => `${Math.floor(s / 60)}:${String(Math.floor(s % 60)).padStart(2, '0')}`;

type Of<K extends Entry['kind']> = Extract<Entry, { kind: K }>;

function sayExceedance(type: TypeFile, entry: Of<'exceedance'>): EntryWords {
  const channel = type.channels.find((c) => c.id === entry.channel);
  const words = `${entry.duration_s.toFixed(1)} s past ${entry.edge} ${channel?.unit ?? ''}, to ${entry.peak.toFixed(channel?.decimals ?? 0)}`;
  return { title: channel?.label ?? entry.channel, detail: words, stands: entry.expired };
}

function sayWay(type: TypeFile, entry: Of<'way-changed'>): string {
  const choice = type.choices.find((c) => c.id === entry.choice);
  const answer = choice?.alternatives.find((a) => a.id === entry.to)?.label ?? entry.to;
  return `${choice?.question ?? entry.choice}: ${answer}`;
}

function sayDecision(type: TypeFile, entry: Of<'decided'>): string {
  const item = findItem(type, entry.item);
  const answer = item?.kind === 'decide' ? item.alternatives.find((a) => a.id === entry.alternative)?.label : null;
  return answer ?? entry.alternative;
}
