import { describe, expect, test } from 'vitest';
import type { Item } from '@rouse/core/aircraft';
import type { PastCheck } from '@rouse/core/health';
import { checkChain, type Entry, type Payload } from '@rouse/core/procedure';
import {
  CORRIDOR_STARTS,
  createSession,
  NO_PAST,
  pastOfTail,
  type RunSession,
  type TailPast,
} from '@rouse/core/session';
import { rowAt, rowInto, type Trace } from '@rouse/core/trace';
import { dayOf } from '@rouse/core/watch';
import { inputOf } from '../desk.ts';
import { typeOf } from '../fleet.ts';
import { flyPreset, once, RUN_ID, skerry } from '../skerry.ts';

const opened = { tail: 'QV-SKY', type: 'S7', typeVersion: skerry.version, pad: '', conditions: '' };
const START = 'engine-1-start';

function begun(source: 'device' | 'recording' = 'device', past: TailPast = NO_PAST, from = 0): RunSession {
  let n = from;
  const stamp = (t_s: number) => ({ id: `id-${++n}`, at_ms: 1e12 + t_s * 1000 });
  const session = createSession(skerry, { run: RUN_ID, past, stamp });
  if (from === 0) session.open('pilot', { ...opened, source }, null);
  return session;
}

const until = (trace: Trace, rows: number): Trace => ({
  channels: trace.channels,
  t_s: trace.t_s.subarray(0, rows),
  columns: trace.columns.map((c) => c.subarray(0, rows)),
});

const mild = once(() => flyPreset('mild'));
const startedAt = once(() => mild().entries.find((e) => e.kind === 'start-state')!.t);

/** Feeds the mild start up to a moment of the run clock. */
function feed(session: RunSession, to_s: number, trace = mild().trace): Entry[] {
  const values = new Float64Array(trace.columns.length);
  const out: Entry[] = [];
  for (let i = Number.isNaN(session.lastFrame_s) ? 0 : rowAt(trace, session.lastFrame_s + 1e-6); i < trace.t_s.length && trace.t_s[i]! < to_s; i++) {
    rowInto(trace, i, values);
    out.push(...session.frame(trace.t_s[i]!, values).journal);
  }
  return out;
} // oxfmt-ignore

/** Feeds rows of the mild start. */
function feedRows(session: RunSession, from: number, to: number): void {
  const { trace } = mild();
  const values = new Float64Array(trace.columns.length);
  for (let i = from; i < to; i++) {
    rowInto(trace, i, values);
    session.frame(trace.t_s[i]!, values);
  }
}

const abort: Payload = { kind: 'abort', watch: START, reason: 'pilot', text: 'Stopped by the pilot', say: 'Stop.', figure: 'own call' }; // oxfmt-ignore

describe('a run that is opened', () => {
  test('has its first entries at zero, by whoever opens it, and a watch', () => {
    const session = createSession(skerry, { run: RUN_ID, past: NO_PAST, stamp: () => ({ id: 'x', at_ms: 0 }) });
    expect(session.view().watch).toBeNull();
    const brief = { ways: {}, overrides: [], accepted: [], expected: { altimeter: 61, 'pressure-setting': 1008, fuel: 200, mass: 1500 }, oat_C: 12, pa_ft: 200, words: 'w', input: { ...inputOf('S7') } }; // oxfmt-ignore
    const { journal, frames, close, tell } = session.open('R. Vale', { ...opened, source: 'device' }, brief);
    expect(journal.map((e) => [e.kind, e.by, e.t])).toEqual([['run-opened', 'R. Vale', 0], ['briefed', 'R. Vale', 0]]); // oxfmt-ignore
    expect({ frames, close, tell }).toEqual({ frames: false, close: null, tell: [] });
    expect(session.state.brief).toMatchObject({ oat_C: 12 });
    expect(session.view().watch).toMatchObject({ phase: 'off', starts: [{ watch: START, state: 'before' }] });
  });

  test('knows the usual range of its tail by start watch, none where nothing was learned', () => {
    expect(begun().corridors).toEqual({ [START]: null });
    const { record, profile } = mild().starts[0]!;
    const starts = Array.from({ length: 8 }, () => ({ profile, day: dayOf(record) }));
    const past = pastOfTail(skerry, { [START]: starts }, []);
    expect(begun('device', past).corridors[START]).toMatchObject({ starts: 8 });
    expect(pastOfTail(skerry, {}, []).corridors).toEqual({ [START]: null });
    expect(CORRIDOR_STARTS).toBe(40);
    expect(pastOfTail(typeOf('T2'), {}, []).corridors).toEqual({});
  });

  test('knows what its checks usually are, and what its hovers took more than predicted', () => {
    const { trace } = skerry.items.find((i): i is Extract<Item, { kind: 'measure' }> => i.id === 'hover-check')!;
    const { id } = trace!.figures.find((f) => f.of === 'hover' && f.says === 'difference')!;
    const past = Array.from({ length: 12 }, (): PastCheck => ({ check: trace!.check, figures: [{ id, value: 2, good: [null, null] }] })); // oxfmt-ignore
    const { learned } = pastOfTail(skerry, {}, past);
    expect(learned.hoverOffset_pct).toBe(2);
    expect(learned.checks.usual).toHaveProperty([`${trace!.check}/${id}`]);
    expect(pastOfTail(skerry, {}, []).learned).toMatchObject({ hoverOffset_pct: 0, checks: { usual: {} } });
  });
});

describe('frames', () => {
  test('settle what sensors see, by the watch; in a recording nobody works a list', () => {
    const [live, recorded] = [begun(), begun('recording')];
    for (const session of [live, recorded]) feed(session, startedAt() + 5);
    const sensed = (session: RunSession) => session.entries.filter((e) => e.kind === 'item-done');
    expect(sensed(recorded)).toEqual([]);
    expect(recorded.entries.some((e) => e.kind === 'start-state' && e.state === 'cranking')).toBe(true);
    expect(live.entries.some((e) => e.kind === 'start-state' && e.state === 'cranking')).toBe(true);
    expect(recorded.entries.filter((e) => e.kind === 'start-state').every((e) => e.by === 'watch')).toBe(true);
  });

  test('are looked at for items every fifth time, checks apart', () => {
    const session = begun();
    const first = mild().entries.find((e) => e.kind === 'item-done' && e.how === 'sensed')!;
    // the list is where it was when the sensor settled it
    const before = mild().entries.filter((e) => e.seq < first.seq && e.by !== 'watch');
    for (const { kind, id: _, run: _r, seq: _s, at: _a, t, by: _b, prev: _p, ...rest } of before.slice(1))
      session.answer({ by: 'pilot', t_s: t, payload: { kind, ...rest } as Payload });
    const values = new Float64Array(skerry.channels.length);
    rowInto(mild().trace, rowAt(mild().trace, first.t), values);
    const settled: number[] = [];
    for (let k = 1; k <= 40; k++)
      if (session.frame(first.t + k / 50, values).journal.some((e) => e.kind === 'item-done')) settled.push(k);
    expect(settled.length).toBeGreaterThan(0);
    expect(settled.every((k) => k % 5 === 0)).toBe(true);
  });

  test('are fresh as long as the one limit says, its end included', () => {
    const session = begun();
    feed(session, 1);
    const last_s = session.lastFrame_s;
    expect(session.freshValues(last_s + 0.8)).not.toBeNull();
    expect(session.freshValues(last_s + 0.801)).toBeNull();
    expect(begun().freshValues(0)).toBeNull();
  });
});

describe('a stop by the pilot', () => {
  test('is one entry, his, under his id; what the watch says with it is the watch’s, and the figures are kept', () => {
    const session = begun();
    feed(session, startedAt() + 6);
    const { entry, effects } = session.answer({ id: 'mine', by: 'R. Vale', t_s: startedAt() + 6, payload: abort }) as Extract<ReturnType<RunSession['answer']>, { ok: true }>; // oxfmt-ignore
    expect(entry).toMatchObject({ id: 'mine', kind: 'abort', by: 'R. Vale', reason: 'pilot', watch: START });
    expect(effects.journal.filter((e) => e.kind === 'abort')).toEqual([entry]);
    expect(effects.tell).toEqual([entry]);
    expect(effects.journal.filter((e) => e.kind !== 'abort').map((e) => e.by)).toEqual(['watch']);
    expect(effects.starts).toMatchObject([{ watch: START, attempt: 1, good: false }]);
    expect(effects.starts[0]!.record.starterAt_s).toBeCloseTo(startedAt(), 1);
    expect(session.answer({ id: 'mine', by: 'R. Vale', t_s: startedAt() + 7, payload: abort })).toMatchObject({ ok: true, entry: { id: 'mine' } }); // oxfmt-ignore
    // its figures are final when the engine has come to rest
    const values = new Float64Array(skerry.channels.length);
    rowInto(mild().trace, 0, values);
    const ended = Array.from({ length: 3000 }, (_, k) => session.frame(startedAt() + 7 + k / 50, values).starts).flat();
    expect(ended).toMatchObject([{ watch: START, attempt: 1, good: false }]);
  });

  test('without an id is found by who said it', () => {
    const session = begun();
    feed(session, startedAt() + 6);
    const stopped = session.answer({ by: 'R. Vale', t_s: startedAt() + 6, payload: abort });
    expect(stopped).toMatchObject({ ok: true, entry: { kind: 'abort', by: 'R. Vale' } });
  });

  test('closed before the engine stood still, its figures are those seen so far', () => {
    const session = begun();
    feed(session, startedAt() + 6);
    session.answer({ by: 'pilot', t_s: startedAt() + 6, payload: abort });
    const { effects } = session.answer({ by: 'pilot', t_s: startedAt() + 7, payload: { kind: 'closed', outcome: 'aborted' } }); // oxfmt-ignore
    expect(effects.starts).toMatchObject([{ watch: START, good: false }]);
    expect(effects.close).toMatchObject({ outcome: 'aborted', booking: { engines: [{ engine: 1 }] } });
    // nothing was stopped: nothing is added
    const other = begun();
    feed(other, 2);
    expect(other.answer({ by: 'pilot', t_s: 2, payload: { kind: 'closed', outcome: 'given-up' } }).effects.starts).toEqual([]); // oxfmt-ignore
  });
});

test('a start that ends well is good, once, with what is learned of it', () => {
  const session = begun();
  const values = new Float64Array(skerry.channels.length);
  const { trace } = mild();
  const starts = [];
  for (let i = 0; i < trace.t_s.length; i++) {
    rowInto(trace, i, values);
    starts.push(...session.frame(trace.t_s[i]!, values).starts);
  }
  expect(starts).toMatchObject([{ watch: START, attempt: 1, good: true }]);
  expect(starts[0]!.features['peak_C']).toBeGreaterThan(500);
  expect(starts[0]!.record.peak_C).toBe(starts[0]!.features['peak_C']);
});

describe('a run that is taken up', () => {
  test('reports what was seen and not written, once, and goes on with its readings', () => {
    const first = begun();
    feed(first, startedAt() + 8);
    const rows = rowAt(mild().trace, startedAt() + 8);
    const told = first.entries.filter((e) => e.kind === 'cue' || e.kind === 'start-state');
    expect(told.length).toBeGreaterThan(2);
    // everything after the opening was lost with the process
    const again = begun('device', NO_PAST, 1000);
    const missed = again.restore(first.entries.slice(0, 1), until(mild().trace, rows));
    const said = (entries: readonly Entry[]) => entries.filter((e) => e.by === 'watch' && e.kind !== 'item-done').map((e) => `${e.kind} ${e.t}`); // oxfmt-ignore
    expect(said(missed.journal)).toEqual(said(first.entries));
    expect(again.lastFrame_s).toBe(mild().trace.t_s[rows - 1]);
    expect(again.freshValues(again.lastFrame_s)).toEqual(first.freshValues(first.lastFrame_s));
    // and a third process has nothing to add
    expect(begun('device', NO_PAST, 2000).restore(again.entries, until(mild().trace, rows)).journal).toEqual([]);
  });

  test('without a frame it waits for the first', () => {
    const again = begun('device', NO_PAST, 1000);
    expect(again.restore(begun().entries, until(mild().trace, 0)).journal).toEqual([]);
    expect(again.lastFrame_s).toBeNaN();
    const values = new Float64Array(skerry.channels.length);
    rowInto(mild().trace, 0, values);
    expect(again.frame(0, values).frames).toBe(true);
  });
});

describe('time without data, and the line', () => {
  test('nothing is said of a line before its first frame, nor of a run that is closed', () => {
    const session = begun();
    expect(session.clock(1e4).tell).toEqual([]);
    feed(session, 1);
    session.answer({ by: 'pilot', t_s: 1, payload: { kind: 'closed', outcome: 'given-up' } });
    expect(session.clock(1e4).journal).toEqual([]);
    expect(session.line(1e4).journal).toEqual([]);
  });

  test('a second unit is told again after a minute', () => {
    const session = begun();
    const [cue] = session.line(5).tell;
    expect(cue).toMatchObject({ severity: 'caution', by: 'watch', t: 5 });
    expect(session.line(64.9).tell).toEqual([]);
    expect(session.line(65).tell).toHaveLength(1);
    expect(session.line(66).tell).toEqual([]);
  });
});

test('the frames that a digest covers are said in the journal, by the watch', () => {
  const { journal, tell, frames } = begun().seal(9, 8.5, 425, 'd');
  expect(journal).toMatchObject([{ kind: 'trace-sealed', by: 'watch', t: 9, to_s: 8.5, frames: 425, digest: 'd' }]);
  expect({ tell, frames }).toEqual({ tell: [], frames: false });
});

test('an id means one entry: the same answer again gives it back, another one is refused', () => {
  const session = begun();
  const id = '0193a000-0000-7000-8000-0000000000cc';
  const first = session.answer({ id, by: 'pilot', t_s: 1, payload: { kind: 'mark', words: 'a' } });
  const again = session.answer({ id, by: 'pilot', t_s: 2, payload: { kind: 'mark', words: 'a' } });
  expect(again).toEqual({ ...first, effects: expect.anything() as unknown });
  expect(again.effects.journal).toEqual([]);
  expect(session.answer({ id, by: 'pilot', t_s: 3, payload: { kind: 'mark', words: 'b' } })).toMatchObject({ ok: false, code: 'id-used' }); // oxfmt-ignore
  // a process that has only the journal knows it too
  const later = begun('device', NO_PAST, 1e6);
  later.restore(session.entries, { channels: [], t_s: new Float64Array(), columns: [] });
  expect(later.answer({ id, by: 'pilot', t_s: 3, payload: { kind: 'mark', words: 'a' } }).ok).toBe(true);
  expect(later.answer({ id, by: 'pilot', t_s: 3, payload: { kind: 'note', text: 'a' } })).toMatchObject({ ok: false, code: 'id-used' }); // oxfmt-ignore
});

test('by hand nothing of the line is taken', () => {
  const session = createSession(skerry, { run: RUN_ID, past: NO_PAST, stamp: (t) => ({ id: String(t), at_ms: 0 }) });
  session.open('pilot', { ...opened, source: 'by-hand' }, null);
  expect(session.frame(1, new Float64Array(skerry.channels.length)).frames).toBe(false);
  expect(session.view().watch).toBeNull();
});

test('a run that is closed while a reading is still outside its limit keeps the exceedance, before the word closed', () => {
  const { trace, entries } = mild();
  const session = begun();
  const idle_s = entries.find((e) => e.kind === 'start-done')!.t + 5;
  const last = trace.t_s.findIndex((t) => t > idle_s);
  feedRows(session, 0, last);
  const values = new Float64Array(trace.columns.length);
  rowInto(trace, last, values);
  values[skerry.channels.findIndex((c) => c.id === 'oil.1.pressure')] = 0.1;
  for (let k = 1; k <= 500; k++) session.frame(idle_s + k / 50, values);
  const closed = session.answer({
    by: 'pilot',
    t_s: idle_s + 10.1,
    payload: { kind: 'closed', outcome: 'given-up' },
  });
  expect(closed.ok && closed.entry.kind).toBe('closed');
  expect(session.entries.at(-1)!.kind).toBe('closed');
  const held = session.entries.find((e) => e.kind === 'exceedance' && e.limit.startsWith('oil'));
  expect(held).toMatchObject({ expired: true, severity: 'warning' });
  expect(checkChain(session.entries)).toBeNull();
});

test('a frame that does not come after the one before is refused and changes nothing', () => {
  const { trace } = mild();
  const session = begun();
  feedRows(session, 0, 100);
  const before = session.entries;
  const values = new Float64Array(trace.columns.length).fill(NaN);
  expect(session.frame(trace.t_s[99]!, values).frames).toBe(false);
  expect(session.frame(trace.t_s[50]!, values).frames).toBe(false);
  expect(session.frame(-1, values).frames).toBe(false);
  expect(session.lastFrame_s).toBe(trace.t_s[99]);
  expect(session.entries).toBe(before);
  expect(session.frame(trace.t_s[100]!, values).frames).toBe(true);
});

test('a start that the pilot stopped stays stopped when it is taken up', () => {
  const { trace } = mild();
  const session = begun();
  const values = new Float64Array(trace.columns.length);
  let i = 0;
  for (; !session.entries.some((e) => e.kind === 'start-state' && e.state === 'accelerating'); i++) {
    rowInto(trace, i, values);
    session.frame(trace.t_s[i]!, values);
  }
  const stopped = session.answer({ id: '0193a000-0000-7000-8000-0000000000bb', by: 'pilot', t_s: trace.t_s[i - 1]! + 0.01, payload: abort }); // oxfmt-ignore
  expect(stopped).toMatchObject({ ok: true, entry: { kind: 'abort', reason: 'pilot', by: 'pilot', id: '0193a000-0000-7000-8000-0000000000bb' } }); // oxfmt-ignore
  feedRows(session, i, i + 200);
  const again = begun('device', NO_PAST, 1e6);
  const missed = again.restore(session.entries, {
    channels: trace.channels,
    t_s: trace.t_s.subarray(0, i + 200),
    columns: trace.columns.map((c) => c.subarray(0, i + 200)),
  });
  expect(missed.journal).toEqual([]);
  expect(again.view().watch!.starts[0]!.state).toBe('aborted');
});

test('without data every reading is unknown within the one limit, and that is said once', () => {
  const { trace } = mild();
  const session = begun();
  feedRows(session, 0, 50);
  const t = trace.t_s[49]!;
  expect(session.freshValues(t + 0.7)).not.toBeNull();
  expect(session.clock(t + 0.7).tell).toEqual([]);
  expect(session.freshValues(t + 0.9)).toBeNull();
  expect(session.clock(t + 0.9).tell).toMatchObject([{ code: 'source-lost', severity: 'warning' }]);
  expect(session.clock(t + 1).tell).toEqual([]);
});

test('closing says what it adds to the books, and nothing is taken any more', () => {
  const { trace } = mild();
  const session = begun();
  feedRows(session, 0, 200);
  const { effects } = session.answer({ by: 'pilot', t_s: 5, payload: { kind: 'closed', outcome: 'given-up' } });
  expect(effects.close).toMatchObject({ outcome: 'given-up', booking: { engines: [{ engine: 1, starts: 0 }] } });
  expect(session.frame(trace.t_s[200]!, new Float64Array(trace.columns.length)).frames).toBe(false);
  expect(session.clock(1e4)).toMatchObject({ journal: [] });
});

test('a word that is said in mid-start stops nothing, and closes no record', () => {
  const session = begun();
  feed(session, startedAt() + 6);
  const said = session.answer({ by: 'pilot', t_s: startedAt() + 6, payload: { kind: 'mark', words: 'w' } });
  expect(said).toMatchObject({ ok: true, entry: { kind: 'mark' } });
  expect(session.state.abort).toBeNull();
  expect(session.view().watch!.starts[0]!.state).not.toBe('aborted');
  // a reading that stands outside its limit goes on to stand there
  const values = new Float64Array(skerry.channels.length);
  rowInto(mild().trace, mild().trace.t_s.length - 1, values);
  const idle = begun();
  feed(idle, Infinity);
  values[skerry.channels.findIndex((c) => c.id === 'oil.1.pressure')] = 0.1;
  for (let k = 1; k <= 100; k++) idle.frame(idle.lastFrame_s + 0.02, values);
  const { effects } = idle.answer({ by: 'pilot', t_s: idle.lastFrame_s, payload: { kind: 'mark', words: 'w' } });
  expect(effects.journal.map((e) => e.kind)).toEqual(['mark']);
});

test('a frame from before the run is refused, the first one too', () => {
  const values = new Float64Array(skerry.channels.length);
  expect(begun().frame(-0.1, values).frames).toBe(false);
  expect(begun().frame(0, values).frames).toBe(true);
});

test('an answer that is refused says why, and writes nothing', () => {
  const session = begun();
  const before = session.entries;
  const refused = session.answer({ id: 'x', by: 'pilot', t_s: 1, payload: { kind: 'undone', entry: 'none' } });
  expect(refused).toMatchObject({ ok: false, code: 'nothing-to-undo', effects: { journal: [], frames: false } });
  expect(session.entries).toBe(before);
  const taken = session.answer({ id: 'x', by: 'pilot', t_s: 1, payload: { kind: 'mark', words: 'w' } });
  expect(taken).toMatchObject({ ok: true, entry: { id: 'x' }, effects: { frames: false, journal: [{ id: 'x' }] } });
});

test('a start with a hole of eight seconds is not good, and nothing is learned from it', () => {
  const session = begun();
  feed(session, startedAt());
  const { trace } = mild();
  const values = new Float64Array(trace.columns.length);
  const starts = [];
  for (let i = rowAt(trace, startedAt() + 8); i < trace.t_s.length; i++) {
    rowInto(trace, i, values);
    starts.push(...session.frame(trace.t_s[i]!, values).starts);
  }
  expect(starts.map((x) => x.good)).not.toContain(true);
});

test('a type that nothing is watched of keeps its frames, its answers and its end', () => {
  const stamp = (t_s: number) => ({ id: `id-${t_s}-${Math.round(t_s * 7)}`, at_ms: 0 });
  const plain = { ...skerry, startWatches: [] } as unknown as typeof skerry;
  const session = createSession(plain, { run: RUN_ID, past: NO_PAST, stamp });
  session.open('pilot', { ...opened, source: 'device' }, null);
  expect(session.view().watch).toBeNull();
  expect(session.frame(1, new Float64Array(skerry.channels.length)).frames).toBe(true);
  expect(session.clock(99).journal).toEqual([]);
  expect(session.answer({ by: 'pilot', t_s: 2, payload: abort })).toMatchObject({ ok: true, entry: { kind: 'abort' } });
  const again = createSession(plain, { run: RUN_ID, past: NO_PAST, stamp });
  expect(again.restore(session.entries, until(mild().trace, 5))).toMatchObject({ journal: [], frames: false });
  expect(again.answer({ by: 'pilot', t_s: 3, payload: { kind: 'closed', outcome: 'aborted' } })).toMatchObject({ ok: true, effects: { starts: [], close: { outcome: 'aborted' } } }); // oxfmt-ignore
});

describe('the ledgers of an engine', () => {
  const H9 = typeOf('H9');
  const spec = H9.ratings!.ledgers.find((l) => l.id === 'one-engine')!;
  const [{ channels, edges }] = spec.measures as [{ channels: string[]; edges: number[] }];
  const used = H9.channels.findIndex((c) => c.id === channels[0]);
  const above = edges[0]! + 1;
  const speed = H9.channels.findIndex((c) => c.id === 'ng.1');

  /** Frames at one-engine power, twenty a second. */
  function worked(session: RunSession, from_s: number, to_s: number): Entry[] {
    const values = new Float64Array(H9.channels.length);
    values[speed] = 90;
    const out: Entry[] = [];
    for (let t_s = from_s; t_s < to_s; t_s += 0.05) {
      values[used] = t_s < from_s + 1 ? 0 : above;
      const { journal } = session.frame(t_s, values);
      // said with the frame in which it happens
      expect(journal.filter((e) => e.kind === 'rating' && t_s - e.t > 2.2)).toEqual([]);
      out.push(...journal);
    }
    return out;
  }
  const session = (from: number): RunSession => {
    let n = from;
    return createSession(H9, { run: RUN_ID, past: NO_PAST, stamp: (t_s) => ({ id: `r-${++n}`, at_ms: t_s * 1000 }) });
  };

  test('say in the journal what was used, and say it once, also when the run is taken up', () => {
    const one = session(0);
    one.open('pilot', { ...opened, type: 'H9', typeVersion: H9.version, source: 'device' }, null);
    const booked = worked(one, 1, 20).filter((e) => e.kind === 'rating');
    expect(booked.length).toBeGreaterThan(0);
    expect(booked.every((e) => e.by === 'watch' && e.t < 20)).toBe(true);
    expect(one.view().ratings.some((r) => r.booked_s > 10)).toBe(true);
    const rows = Array.from({ length: 380 }, (_, i) => 1 + i * 0.05);
    const trace: Trace = {
      channels: H9.channels.map((c) => c.id),
      t_s: Float64Array.from(rows),
      columns: H9.channels.map((_, k) =>
        Float64Array.from(rows, (t) => (k === speed ? 90 : k === used && t >= 2 ? above : 0)),
      ),
    };
    expect(
      session(100)
        .restore(one.entries, trace)
        .journal.filter((e) => e.kind === 'rating'),
    ).toEqual([]);
    const lost = session(100)
      .restore(one.entries.slice(0, 1), trace)
      .journal.filter((e) => e.kind === 'rating');
    expect(lost.map((e) => e.t)).toEqual(booked.map((e) => e.t));
  });
});
