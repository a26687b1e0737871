import type { Source } from '@rouse/core/procedure';
/** "6:40" from seconds; a dash for what is not known. */
export function minutes(seconds: number | null): string {
  if (seconds === null || !Number.isFinite(seconds)) return '–';
  const whole = Math.max(0, Math.round(seconds));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`;
}

/** "00:14.2" from seconds. */
export function stopwatch(seconds: number): string {
  const t = Math.max(0, seconds);
  return `${String(Math.floor(t / 60)).padStart(2, '0')}:${(t % 60).toFixed(1).padStart(4, '0')}`;
}

/** "24 Nov, 08:41" in the local time of this machine. */
export function dayAndTime(iso: string): string {
  const at = new Date(iso);
  return `${at.toLocaleDateString('en-GB', { day: 'numeric', month: 'short' })}, ${clockTime(at)}`;
}

/** "08:41" in the local time of this machine. */
export function clockTime(at: Date): string {
  return at.toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit' });
}

const OUTCOMES = {
  ready: 'Ready for lift',
  'shut-down': 'Shut down',
  aborted: 'Start aborted',
  'given-up': 'Given up',
  recorded: 'Brought along',
} as const;

export function outcomeInWords(outcome: keyof typeof OUTCOMES | null): string {
  return outcome === null ? 'Open' : OUTCOMES[outcome];
}

/** Where the readings of a run came from, in a word; empty for a real unit. */
export function sourceInWords(source: Source): string {
  if (source === 'device') return '';
  if (source === 'by-hand') return 'by hand';
  return source === 'recording' ? 'a recording' : 'simulated';
}

/** "3.4 h" from seconds. */
export const hours = (seconds: number): string => `${(seconds / 3600).toFixed(1)} h`;
