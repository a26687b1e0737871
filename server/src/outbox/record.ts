import { crc32 } from 'node:zlib';
import type { Entry } from '@rouse/core/procedure';
import type { StartFigures } from '@rouse/core/session';
import type { Booking } from '@rouse/core/shutdown';

/** Which run a record belongs to, with what is needed to store it. */
export interface RunRef {
  operatorId: string;
  runId: string;
  runMonth: string;
  aircraftId: string;
  typeId: string;
  typeVersion: number;
  /** of the tenure in which it was written: a server that has lost the fleet since writes no more */
  fence: number;
}

type KeptStart = Pick<StartFigures, 'watch' | 'attempt' | 'good' | 'features' | 'profile'>;

/** What one effect leaves to be stored. */
export type OutboxRecord =
  | {
      kind: 'entries';
      run: RunRef;
      /** wall clock at which it was kept, ms */
      at_ms: number;
      entries: Entry[];
      starts: KeptStart[];
      /** the run is closed with the last of these entries */
      booking: Booking | null;
    }
  /** frames as one chunk of the trace codec, base64 */
  | { kind: 'frames'; run: RunRef; first_s: number; last_s: number; data: string };

const hex = (sum: number): string => sum.toString(16).padStart(8, '0');

/** One line: the CRC-32 of the text, then the text. */
export function encodeRecord(record: OutboxRecord): string {
  const text = JSON.stringify(record);
  return `${hex(crc32(text))} ${text}\n`;
}

/** @returns null for a line that is not as it was written */
export function decodeRecord(line: string): OutboxRecord | null {
  const text = line.slice(9);
  if (line[8] !== ' ' || hex(crc32(text)) !== line.slice(0, 8)) return null;
  return JSON.parse(text) as OutboxRecord;
}
