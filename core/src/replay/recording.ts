import type { Phase, WatchedType } from '../aircraft/index.ts';
import { snapshotOf, Watch, type WatchEvent, type WatchSnapshot } from '../watch/index.ts';

/** rows further apart than this are a gap: what happened in it nobody has seen */
const GAP_S = 2;

/** What is found in a recording: what the watch reports, and what nobody could have seen. */
export type RecordingEvent =
  | WatchEvent
  | { kind: 'gap'; t_s: number; for_s: number }
  /** a start could not be looked for: neither its starter nor its speed is in the recording */
  | { kind: 'start-not-sought'; t_s: number; watch: string; text: string };

/**
 * Watches a recording row by row: one that others made, so it has no procedure and nobody answers. The one way in which
 * Replay, its scan, and the command line look at a file.
 */
export class RecordingWatch {
  readonly watch: Watch;
  private readonly type: WatchedType;
  private readonly onEvent: (event: RecordingEvent) => void;
  /** by start watch: its speed or its starter was seen at least once */
  private readonly sought: boolean[];
  private readonly columns: (readonly [number, number])[];
  private last_s = NaN;

  /** @param fixedPhase a recording of one phase */
  constructor(type: WatchedType, onEvent: (event: RecordingEvent) => void, fixedPhase?: Phase) {
    this.type = type;
    this.onEvent = onEvent;
    this.watch = new Watch(type, {}, onEvent, fixedPhase);
    const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
    this.columns = type.startWatches.map((w) => [index(w.channels.speed), index(w.starter.channel)] as const);
    this.sought = type.startWatches.map(() => fixedPhase !== undefined);
  }

  /** One row. */
  row(t_s: number, values: Float64Array): void {
    if (t_s - this.last_s > GAP_S) this.onEvent({ kind: 'gap', t_s: this.last_s, for_s: t_s - this.last_s });
    this.last_s = t_s;
    for (let i = 0; i < this.columns.length; i++) {
      const [speed, starter] = this.columns[i]!;
      if (!this.sought[i]) this.sought[i] = !Number.isNaN(values[speed]!) || !Number.isNaN(values[starter]!);
    }
    this.watch.step(t_s, values);
  }

  /** The recording is over. */
  finish(): void {
    const end_s = Number.isNaN(this.last_s) ? 0 : this.last_s;
    this.watch.finish(end_s);
    this.type.startWatches.forEach((spec, i) => {
      if (this.sought[i]) return;
      const text = `No start of ${spec.label.toLowerCase()} could be looked for: neither its speed nor its starter is in the recording`;
      this.onEvent({ kind: 'start-not-sought', t_s: end_s, watch: spec.id, text });
    });
  }

  snapshot(): WatchSnapshot {
    return snapshotOf(this.watch, this.type);
  }
}
