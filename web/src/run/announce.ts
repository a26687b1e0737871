import { findItem, itemState, presentItem, type Entry } from '@rouse/core/procedure';
import type { WatchEvent } from '@rouse/core/watch';
import { store } from '../app/store.ts';
import { shake } from '../platform/awake.ts';
import { playTone } from '../platform/sound.ts';
import { speak } from '../platform/speech.ts';
import type { FollowedRun } from './run-slice.ts';

type Said = Extract<Entry | WatchEvent, { kind: 'cue' | 'abort' }>;

const severityOf = (said: Said): 'call' | 'caution' | 'warning' => (said.kind === 'abort' ? 'warning' : said.severity);
const RANK = { call: 0, caution: 1, warning: 2 } as const;

function isSaid<T extends Entry | WatchEvent>(entry: T): entry is Extract<T, { kind: 'cue' | 'abort' }> {
  return entry.kind === 'cue' || entry.kind === 'abort';
}

/** Says aloud what has just happened, or is replayed: cues and aborts with their tone, calls as their text. */
export function announce(entry: Entry | WatchEvent): void {
  if (!isSaid(entry)) return;
  const severity = severityOf(entry as Said);
  playTone(severity);
  if (severity === 'warning') shake();
  if (store.getState().settings.voice) speak(entry.say, severity === 'warning');
}

/** What came while nobody could be told: the worst of it, the latest where several are as bad. Calls are past. */
export function announceMissed(entries: readonly Entry[]): void {
  const worst = entries
    .filter(isSaid)
    .filter((e) => severityOf(e) !== 'call')
    .toSorted((a, b) => RANK[severityOf(a)] - RANK[severityOf(b)])
    .at(-1);
  if (worst) announce(worst);
}

/** An abort whose actions are not done is said again to a page that has just opened. */
export function announceUnanswered({ type, state, entries }: FollowedRun): void {
  const present = state.abort && presentItem(type, state);
  if (!present || !findItem(type, present.id) || itemState(state, present.id).status !== 'todo') return;
  const abort = entries.findLast((e) => e.kind === 'abort');
  if (abort) announce(abort);
}
