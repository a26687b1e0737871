import type { Entry } from '@rouse/core/procedure';
import type { WatchEvent } from '@rouse/core/watch';
import { store } from '../app/store.ts';
import { playTone } from '../platform/sound.ts';
import { speak } from '../platform/speech.ts';

/** Says aloud what has just been written, or replayed: cues and aborts with their tone, calls as their text. */
export function announce(entry: Entry | WatchEvent): void {
  if (entry.kind !== 'cue' && entry.kind !== 'abort') return;
  const severity = entry.kind === 'abort' ? 'warning' : entry.severity;
  playTone(severity);
  if (store.getState().settings.voice) speak(entry.say, severity === 'warning');
}
