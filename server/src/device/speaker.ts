import { SOURCE_LOST_AFTER_S } from '@rouse/core/watch';

import type { Socket } from 'node:net';

/** Where the lines of one aircraft go. */
export interface LineSink {
  connected: boolean;
  line(text: string): void;
  /** another unit speaks while the first is heard; it is not listened to */
  secondUnit(from: string): void;
}

/** The door of another server, which watches the aircraft. */
export interface Onward {
  host: string;
  port: number;
  connect(): Socket;
}

/** Who takes what comes in by a door of this server; null for nobody yet. */
export interface LineOwner {
  /** as far as it is known */
  now(): LineSink | Onward | null;
  /** the same, waiting for a fleet that changes hands */
  soon(): Promise<LineSink | Onward | null>;
}

/** a unit that has been silent for longer has lost its place to whoever speaks next */
const HOLDS_FOR_MS = 2 * 1000 * SOURCE_LOST_AFTER_S;

/** Who has the line of an aircraft: one unit at a time, by its connection or by the address of its datagrams. */
export class Speaker {
  private who: string | null = null;
  private heardAt_ms = -Infinity;
  private readonly sink: LineSink;

  constructor(sink: LineSink) {
    this.sink = sink;
  }

  /** @returns whether this one has the line, or takes it from one that has fallen silent */
  has(who: string): boolean {
    const now_ms = performance.now();
    if (who !== this.who && this.who !== null && now_ms - this.heardAt_ms < HOLDS_FOR_MS) {
      this.sink.secondUnit(who);
      return false;
    }
    this.who = who;
    this.sink.connected = true;
    return true;
  }

  /** One line of whoever has it. */
  line(text: string): void {
    this.heardAt_ms = performance.now();
    this.sink.line(text);
  }

  gone(who: string): void {
    if (this.who !== who) return;
    this.who = null;
    this.sink.connected = false;
  }
}

const speakers = new WeakMap<LineSink, Speaker>();

/** The speaker of an aircraft, whichever ports its units come by. */
export function speakerOf(sink: LineSink): Speaker {
  const known = speakers.get(sink) ?? new Speaker(sink);
  speakers.set(sink, known);
  return known;
}
