import { rowsBetween } from '@rouse/core/session';
import { decodeChunks, type Trace } from '@rouse/core/trace';
import type { RunRef } from './record.ts';

/** Frames of one run that are on their way from the outbox to the database. */
export interface Gathered {
  run: RunRef;
  /** as they were kept: unpacked one by one they would be most of what the memory holds */
  chunks: Uint8Array[];
  /** what is up to here is stored already */
  after_s: number;
  from_s: number;
  to_s: number;
}

/** The frames that are not stored yet, and the chunks that nobody can read: they hold the others up no longer. */
export function unpack({ chunks, after_s }: Gathered, channels: readonly string[]): { frames: Trace; unreadable: Uint8Array[] } {
  const unreadable: Uint8Array[] = [];
  const readable = (): Trace => {
    const whole = decodeChunks(chunks.filter((c) => !unreadable.includes(c)), channels);
    return rowsBetween(whole, after_s, Infinity);
  };
  try {
    return { frames: readable(), unreadable };
  } catch {
    for (const chunk of chunks)
      try {
        decodeChunks([chunk], channels);
      } catch {
        unreadable.push(chunk);
      }
    return { frames: readable(), unreadable };
  }
} // oxfmt-ignore
