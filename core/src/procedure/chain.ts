import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Entry, Payload } from './entries.ts';

const CHAIN_START = '0'.repeat(64);

/** JSON with sorted keys and no spaces: one text for one value. NaN and undefined members are left out or null as in JSON. */
export function canonicalJson(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(canonicalJson).join(',')}]`;
  if (typeof value === 'object' && value !== null) {
    const members = Object.entries(value)
      .filter(([, v]) => v !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0))
      .map(([k, v]) => `${JSON.stringify(k)}:${canonicalJson(v)}`);
    return `{${members.join(',')}}`;
  }
  return JSON.stringify(value ?? null);
}

/** SHA-256 of a text, hex. */
export function digestOf(text: string): string {
  return digestOfBytes(utf8ToBytes(text));
}

/** SHA-256 of bytes, hex. */
export function digestOfBytes(bytes: Uint8Array): string {
  return bytesToHex(sha256(bytes));
}

export function hashOf(entry: Entry): string {
  return digestOf(canonicalJson(entry));
}

export interface Draft {
  id: string;
  /** wall clock, ms since 1970 */
  at_ms: number;
  t_s: number;
  by: string;
  payload: Payload;
}

/** Makes journal entries of drafts: numbered and chained behind `last`, run clock to the millisecond. */
export function chainEntries(run: string, last: Entry | undefined, drafts: readonly Draft[]): Entry[] {
  let prev = last ? hashOf(last) : CHAIN_START;
  let seq = last?.seq ?? 0;
  return drafts.map(({ id, at_ms, t_s, by, payload }) => {
    const entry: Entry = {
      id,
      run,
      seq: ++seq,
      at: new Date(at_ms).toISOString(),
      t: Math.round(t_s * 1000) / 1000,
      by,
      prev,
      ...payload,
    };
    prev = hashOf(entry);
    return entry;
  });
}

export type ChainFault = { seq: number; message: string };

/** Recomputes the chain. @returns the first break, or null when it is whole */
export function checkChain(entries: readonly Entry[]): ChainFault | null {
  let prev = CHAIN_START;
  const ids = new Set<string>();
  for (let i = 0; i < entries.length; i++) {
    const entry = entries[i]!;
    if (entry.seq !== i + 1) return { seq: entry.seq, message: `entry ${i + 1} carries the number ${entry.seq}` };
    if (entry.prev !== prev)
      return { seq: entry.seq, message: `entry ${entry.seq} does not follow from the one before it` };
    if (ids.has(entry.id)) return { seq: entry.seq, message: `entry ${entry.seq} repeats an id` };
    ids.add(entry.id);
    prev = hashOf(entry);
  }
  return null;
}
