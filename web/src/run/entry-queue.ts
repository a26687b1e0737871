import { type Payload, payloadSchema } from '@rouse/core/procedure';
import type { Written } from '@rouse/core/contract';
import { ApiRefusal, postJson } from '../platform/api.ts';
import { readSetting, writeSetting } from '../platform/storage.ts';

/** What a person wrote, with the id that it keeps however often it is sent. */
export interface QueuedEntry {
  id: string;
  run: string;
  payload: Payload;
  /** not written by a person: it tells of the outage itself */
  outage?: boolean;
}

export type Sent = { kind: 'accepted' } | { kind: 'refused'; message: string; remedy: string } | { kind: 'kept' };

interface Handlers {
  /** the server's answer: the entry, and every other that the page may not know */
  written: (run: string, written: Written) => void;
  /** number that the page expects its next entry to have */
  nextSeq: (run: string) => number;
  /** a refusal of something that was sent later, when nobody waited for it any more */
  refusedLater: (refusal: { message: string; remedy: string }, id: string) => void;
  newId: () => string;
  /** how many entries wait on this page */
  waiting: (count: number) => void;
}

const KEY = 'unsent';
const FIRST_WAIT_MS = 400;
const LONGEST_WAIT_MS = 4000;
/** a line that says nothing for so long is no line: what was written is kept, and sent again with the same id */
const ANSWERED_WITHIN_MS = 5000;
/** numbers taken by the watch while an entry was on its way */
const TRIES = 12;

/**
 * What a person wrote goes to the server one after the other, each with an id of its own. What cannot be sent is kept in
 * this browser, through a reload too, and sent again with the same id.
 */
export class EntryQueue {
  private queue: QueuedEntry[];
  private readonly handlers: Handlers;
  private readonly results = new Map<string, (sent: Sent) => void>();
  private running = false;
  private retry: number | undefined;
  private wait_ms = FIRST_WAIT_MS;

  constructor(handlers: Handlers) {
    this.handlers = handlers;
    this.queue = kept();
    if (this.queue.length > 0) queueMicrotask(() => this.changed());
    void this.run();
  }

  /** @returns what became of it: accepted, refused, or kept on this page until the server is reached */
  send(entry: QueuedEntry): Promise<Sent> {
    this.queue.push(entry);
    this.changed();
    return new Promise((resolve) => {
      this.results.set(entry.id, resolve);
      window.clearTimeout(this.retry);
      void this.run();
    });
  }

  private async run(): Promise<void> {
    if (this.running) return;
    this.running = true;
    for (let first = this.queue[0]; first; first = this.queue[0]) {
      const sent = await this.post(first);
      if (sent.kind === 'kept') {
        this.sayOutage(first);
        for (const { id } of this.queue) this.settle(id, sent);
        this.retry = window.setTimeout(() => void this.run(), this.wait_ms);
        this.wait_ms = Math.min(2 * this.wait_ms, LONGEST_WAIT_MS);
        break;
      }
      this.wait_ms = FIRST_WAIT_MS;
      this.queue = this.queue.filter((e) => e.id !== first.id);
      this.changed();
      if (!this.settle(first.id, sent) && sent.kind === 'refused' && !first.outage)
        this.handlers.refusedLater(sent, first.id);
    }
    this.running = false;
  }

  /** What follows was written while no server was reached: the journal says so before it. */
  private sayOutage({ run }: QueuedEntry): void {
    if (this.queue[0]!.outage) return;
    const text = `No server was reached from ${new Date().toISOString().slice(11, 19)} UTC: what follows was written on the page meanwhile.`;
    this.queue = [{ id: this.handlers.newId(), run, payload: { kind: 'note', text }, outage: true }, ...this.queue];
    writeSetting(KEY, JSON.stringify(this.queue));
  }

  private async post({ id, run, payload }: QueuedEntry): Promise<Sent> {
    let seq = this.handlers.nextSeq(run);
    for (let i = 0; i < TRIES; i++) {
      try {
        const written = await postJson<Written>(`/runs/${run}/entries`, { id, seq, payload }, ANSWERED_WITHIN_MS);
        this.handlers.written(run, written);
        return { kind: 'accepted' };
      } catch (error) {
        if (!(error instanceof ApiRefusal)) throw error;
        if (error.isOutage) return { kind: 'kept' };
        const expected = error.code === 'out-of-order' ? error.details?.expected : undefined;
        if (expected === undefined) return { kind: 'refused', message: error.message, remedy: error.remedy };
        seq = expected;
      }
    }
    return { kind: 'kept' };
  }

  /** @returns whether somebody waited for it */
  private settle(id: string, sent: Sent): boolean {
    const waits = this.results.get(id);
    this.results.delete(id);
    waits?.(sent);
    return waits !== undefined;
  }

  private changed(): void {
    writeSetting(KEY, JSON.stringify(this.queue));
    this.handlers.waiting(this.queue.filter((e) => !e.outage).length);
  }
}

function kept(): QueuedEntry[] {
  try {
    const parsed = JSON.parse(readSetting(KEY) ?? '[]') as QueuedEntry[];
    return parsed.filter((e) => payloadSchema.safeParse(e.payload).success);
  } catch {
    return [];
  }
}
