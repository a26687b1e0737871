import type { Channel, WatchedType } from '@rouse/core/aircraft';
import type { CsvMapping, FileHead, RecordingEvent, Scanned } from '@rouse/core/replay';
import type { WatchSnapshot } from '@rouse/core/watch';

export const SPEEDS = [1, 2, 4, 8, 16, 32] as const;

/** What the page asks of the worker that reads a recorded file. */
export type ToReplay =
  | { kind: 'open'; file: File }
  | { kind: 'guess'; channels: Channel[] }
  | { kind: 'scan'; type: WatchedType; mapping: CsvMapping }
  | { kind: 'cancel' }
  | { kind: 'play'; from_s: number; speed: number }
  | { kind: 'speed'; speed: number }
  | { kind: 'pause' };

export type FromReplay =
  | { kind: 'head'; head: FileHead; bytes: number }
  | { kind: 'guessed'; mapping: CsvMapping }
  | { kind: 'progress'; bytes: number; total: number; rows: number }
  | { kind: 'scanned'; scanned: Scanned }
  | { kind: 'refused'; row: number; column: string; message: string; remedy: string }
  | { kind: 'cancelled' }
  /** frames one after the other, each as the server packs one */
  | {
      kind: 'frames';
      frames: Float64Array;
      t_s: number;
      watch: WatchSnapshot;
      events: RecordingEvent[];
      jumped: boolean;
    }
  | { kind: 'ended' };
