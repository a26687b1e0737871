import type { Payload } from './entries.ts';

/** Whether an answer is taken, and as which entry; or why not, with what to do. */
export type Acceptance =
  | { ok: true; payload: Payload }
  | { ok: false; code: 'not-this-item' | 'not-so' | 'not-open' | 'nothing-to-undo'; message: string };

export const refuse = (code: Exclude<Acceptance, { ok: true }>['code'], message: string): Acceptance => ({
  ok: false,
  code,
  message,
});

/** The parts of an entry that say what was meant; the words and figures of an answer are the judge's. */
const MEANT = [
  'item',
  'entry',
  'choice',
  'to',
  'text',
  'outcome',
  'leg',
  'zone',
  'alternative',
  'note',
  'reason',
  'stage',
];

/** Whether an entry was made of this answer. */
export function samePayload(entry: Payload, wanted: Payload): boolean {
  const [a, b] = [entry as Record<string, unknown>, wanted as Record<string, unknown>];
  return entry.kind === wanted.kind && MEANT.every((key) => a[key] === b[key]);
}
