import type { Entry, Payload } from '@rouse/core/procedure';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { EntryQueue, type Sent } from '../src/run/entry-queue.ts';

const RUN = '0193a000-0000-7000-8000-0000000000aa';
/** the entry that tells of an outage */
const OUTAGE = '0193a000-0000-7000-8000-0000000000ee';
const mark = (n: number): { id: string; run: string; payload: Payload } => ({
  id: `0193a000-0000-7000-8000-00000000000${n}`,
  run: RUN,
  payload: { kind: 'mark', words: `${n}` },
});

/** A server that answers as it is told, and remembers what it was sent. */
class Server {
  readonly sent: { id: string; seq: number }[] = [];
  away = false;
  expected = 1;
  refuses = false;
  readonly journal: string[] = [];

  answer = async (_place: string, init: { body: string }): Promise<Response> => {
    if (this.away) throw new TypeError('connection refused');
    const { id, seq } = JSON.parse(init.body) as { id: string; seq: number };
    this.sent.push({ id, seq });
    const say = (status: number, body: unknown): Response => new Response(JSON.stringify(body), { status });
    const error = (status: number, code: string, more = {}): Response =>
      say(status, { error: { code, message: code, remedy: 'do so', ...more } });
    if (this.refuses) return error(422, 'not-so');
    if (!this.journal.includes(id)) {
      if (seq !== this.expected) return error(409, 'out-of-order', { expected: this.expected });
      this.journal.push(id);
      this.expected++;
    }
    return say(201, { entry: { id } as Entry, entries: [] });
  };
}

let server: Server;
let stored: Map<string, string>;
let waiting: number[];
let later: unknown[];
const queue = (): EntryQueue =>
  new EntryQueue({
    written: () => undefined,
    nextSeq: () => 1,
    refusedLater: (refusal) => later.push(refusal),
    newId: () => OUTAGE,
    waiting: (count) => waiting.push(count),
  });

beforeEach(() => {
  vi.useFakeTimers();
  server = new Server();
  stored = new Map();
  waiting = [];
  later = [];
  vi.stubGlobal('fetch', server.answer);
  vi.stubGlobal('window', {
    setTimeout: (f: () => void, ms: number) => setTimeout(f, ms),
    clearTimeout: (t: number) => clearTimeout(t),
    localStorage: {
      getItem: (k: string) => stored.get(k) ?? null,
      setItem: (k: string, v: string) => void stored.set(k, v),
    },
  });
  return () => vi.useRealTimers();
});

describe('what a person writes', () => {
  test('is tried again behind what the watch wrote in between, with the same id', async () => {
    server.expected = 4;
    expect(await queue().send(mark(1))).toEqual({ kind: 'accepted' });
    expect(server.sent).toEqual([
      { id: mark(1).id, seq: 1 },
      { id: mark(1).id, seq: 4 },
    ]);
    expect(waiting).toEqual([1, 0]);
  });

  test('that is refused is told to whoever wrote it, and is not sent again', async () => {
    server.refuses = true;
    const entries = queue();
    expect(await entries.send(mark(1))).toMatchObject({ kind: 'refused', remedy: 'do so' });
    server.refuses = false;
    expect(await entries.send(mark(2))).toEqual({ kind: 'accepted' });
    expect(server.journal).toEqual([mark(2).id]);
  });

  test('while the server is away is kept, in its order, and sent when it is back', async () => {
    server.away = true;
    const entries = queue();
    const sent: Promise<Sent>[] = [entries.send(mark(1)), entries.send(mark(2))];
    expect(await Promise.all(sent)).toEqual([{ kind: 'kept' }, { kind: 'kept' }]);
    expect(waiting.at(-1)).toBe(2);
    server.away = false;
    await vi.advanceTimersByTimeAsync(5000);
    // the journal says first why they come late
    expect(server.journal).toEqual([OUTAGE, mark(1).id, mark(2).id]);
    expect(waiting.at(-1)).toBe(0);
  });

  test('survives a reload of the page, and is written once even when the first answer was lost', async () => {
    server.away = true;
    await queue().send(mark(1));
    server.away = false;
    server.journal.push(mark(1).id); // it had arrived; only the answer had not
    queue();
    await vi.advanceTimersByTimeAsync(5000);
    expect(server.journal).toEqual([mark(1).id, OUTAGE]);
    expect(JSON.parse(stored.get('rouse.unsent')!)).toEqual([]);
  });

  test('that is refused only after the server is back is said then', async () => {
    server.away = true;
    await queue().send(mark(1));
    server.away = false;
    server.refuses = true;
    await vi.advanceTimersByTimeAsync(5000);
    expect(later).toEqual([{ kind: 'refused', message: 'not-so', remedy: 'do so' }]);
  });

  test('a browser that keeps nonsense begins with nothing', () => {
    stored.set('rouse.unsent', '{"not":"a list"');
    queue();
    expect(waiting).toEqual([]);
  });
});
