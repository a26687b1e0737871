import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { flyPractice } from '@rouse/core/drill';
import { checkChain, type Entry, reduceRun } from '@rouse/core/procedure';
import { checkSeals, createSession, NO_PAST, type RunSession, traceDigest } from '@rouse/core/session';
import { conditionsOf } from '@rouse/core/simulator';
import { decodeChunk, encodeChunk, rowAt, rowInto, type Trace } from '@rouse/core/trace';
import { typeOf } from '../fleet.ts';
import { flyPreset, once, RUN_ID, skerry } from '../skerry.ts';

const opened = {
  tail: 'QV-SKY',
  type: 'S7',
  typeVersion: skerry.version,
  source: 'device' as const,
  pad: '',
  conditions: '',
};

/** A session with ids that count up. */
function begun(firstId = 0): RunSession {
  let n = firstId;
  const stamp = (t_s: number) => ({
    id: `0193a000-0000-7000-8000-${String(++n).padStart(12, '0')}`,
    at_ms: 1e12 + t_s * 1000,
  });
  const session = createSession(skerry, { run: RUN_ID, past: NO_PAST, stamp });
  if (firstId === 0) session.open('pilot', opened, null);
  return session;
}

/** Feeds rows of a trace. @returns entries that came of them */
function feed(session: RunSession, trace: Trace, from = 0, to = trace.t_s.length): Entry[] {
  const values = new Float64Array(trace.columns.length);
  const out: Entry[] = [];
  for (let i = from; i < to; i++) {
    rowInto(trace, i, values);
    out.push(...session.frame(trace.t_s[i]!, values).journal);
  }
  return out;
}

const kinds = (entries: readonly Entry[]): string[] =>
  entries.map(
    (e) => `${e.kind} ${'code' in e ? e.code : 'state' in e ? e.state : 'reason' in e ? e.reason : ''} ${e.t}`,
  );

describe('a session', () => {
  test('the same inputs give the same effects, entry by entry and hash by hash', () => {
    const { trace } = flyPreset('hot-start');
    const [a, b] = [begun(), begun()];
    expect(feed(a, trace)).toEqual(feed(b, trace));
    expect(a.entries).toEqual(b.entries);
    expect(checkChain(a.entries)).toBeNull();
    expect(a.state).toEqual(reduceRun(a.entries));
  });

  test('a cue is told in the effects of the frame that caused it, with the id of its entry', () => {
    const { trace } = flyPreset('hot-start');
    const session = begun();
    const values = new Float64Array(trace.columns.length);
    let told = 0;
    for (let i = 0; i < trace.t_s.length; i++) {
      rowInto(trace, i, values);
      const { tell, journal } = session.frame(trace.t_s[i]!, values);
      for (const cue of tell) {
        expect(journal).toContainEqual(cue);
        expect(cue.t).toBeLessThanOrEqual(trace.t_s[i]! + 0.001);
        told++;
      }
    }
    expect(told).toBeGreaterThan(3);
    expect(session.entries.some((e) => e.kind === 'abort')).toBe(true);
  });

  test('taken up at any moment it goes on as if nothing had been, and says nothing twice', () => {
    const { trace } = flyPreset('hung-start');
    const whole = begun();
    feed(whole, trace);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: trace.t_s.length - 2 }), fc.boolean(), (cut, lastLost) => {
        const first = begun();
        feed(first, trace, 0, cut);
        // the last thing that happened may have been told and not kept
        const kept = lastLost ? first.entries.slice(0, Math.max(1, first.entries.length - 1)) : first.entries;
        const again = begun(1e6);
        const rows: Trace = {
          channels: trace.channels,
          t_s: trace.t_s.subarray(0, cut),
          columns: trace.columns.map((c) => c.subarray(0, cut)),
        };
        again.restore(kept, rows);
        feed(again, trace, cut);
        const said = (entries: readonly Entry[]) =>
          kinds(
            entries.filter((e) =>
              ['cue', 'abort', 'start-state', 'exceedance', 'phase', 'start-done'].includes(e.kind),
            ),
          ).toSorted();
        expect(said(again.entries)).toEqual(said(whole.entries));
        expect(checkChain(again.entries)).toBeNull();
      }),
      { numRuns: 25 },
    );
  });
});

describe('the digest of a trace', () => {
  const flown = once(() => flyPreset('no-light').trace);
  const resolutions = skerry.channels.map((c) => c.resolution);

  test('is the same before and after the codec', () => {
    const trace = flown();
    const back = decodeChunk(encodeChunk(trace, resolutions), trace.channels);
    expect(traceDigest(back, resolutions)).toBe(traceDigest(trace, resolutions));
  });

  test('finds a changed reading, a lost frame, and frames that were never sealed', () => {
    const trace = flown();
    const session = begun();
    feed(session, trace);
    const to_s = trace.t_s[trace.t_s.length - 1]!;
    session.seal(to_s, to_s, trace.t_s.length, traceDigest(trace, resolutions));
    expect(checkSeals(session.entries, trace, resolutions, true)).toBeNull();
    const changed = { ...trace, columns: trace.columns.map((c) => Float64Array.from(c)) };
    changed.columns[1]![400] = changed.columns[1]![400]! + 10;
    expect(checkSeals(session.entries, changed, resolutions, true)?.message).toMatch(/are not those/);
    const cut = rowAt(trace, to_s - 1);
    const shorter: Trace = {
      ...trace,
      t_s: trace.t_s.subarray(0, cut),
      columns: trace.columns.map((c) => c.subarray(0, cut)),
    };
    expect(checkSeals(session.entries, shorter, resolutions, true)?.message).toMatch(/seals/);
    const unsealed = session.entries.filter((e) => e.kind !== 'trace-sealed');
    expect(checkSeals(unsealed, trace, resolutions, true)?.message).toMatch(/behind the last digest/);
    expect(checkSeals(unsealed, trace, resolutions, false)).toBeNull();
  });
});

describe('a start that was not wholly seen', () => {
  const mild = once(() => flyPreset('mild').trace);
  const startAt = once(() => mild().t_s.findIndex((_, i) => mild().columns[0]![i]! > 25));
  const t0 = once(() => mild().t_s[startAt()]!);
  const without = (hide: (t: number, i: number) => boolean): Trace => {
    const keep = [...mild().t_s].flatMap((t, i) => (hide(t, i) ? [] : [i]));
    return {
      channels: mild().channels,
      t_s: Float64Array.from(keep, (i) => mild().t_s[i]!),
      columns: mild().columns.map((c) => Float64Array.from(keep, (i) => c[i]!)),
    };
  };
  const outcomeOf = (trace: Trace) => {
    const session = begun();
    const starts = [];
    const values = new Float64Array(trace.columns.length);
    for (let i = 0; i < trace.t_s.length; i++) {
      rowInto(trace, i, values);
      starts.push(...session.frame(trace.t_s[i]!, values).starts);
    }
    const done = session.entries.find((e) => e.kind === 'start-done');
    return { verdict: done?.kind === 'start-done' ? done.verdict : null, learned: starts.map((s) => s.good), session };
  };
  test.each<[string, (t: number, i: number) => boolean]>([
    ['a hole of 8 s', (t) => t > t0() && t < t0() + 8],
    ['a hole of 20 s', (t) => t > t0() - 10 && t < t0() + 10],
    ['one frame a second, and every third of them lost', (_, i) => i % 50 !== 0 || i % 150 === 0],
  ])('%s: not good, in words, and nothing is learned from it', (_, hide) => {
    const { verdict, learned, session } = outcomeOf(without(hide));
    expect(verdict).not.toBe('good');
    expect(learned).not.toContain(true);
    expect(session.entries.some((e) => e.kind === 'abort')).toBe(false);
    const said = session.entries.find((e) => e.kind === 'cue' && e.code === 'start-unseen');
    expect(said).toMatchObject({ severity: 'caution', text: expect.stringMatching(/not seen/) as string });
  });

  test('a temperature that stood still: unknown', () => {
    const trace = without(() => false);
    const tot = trace.channels.indexOf('tot.1');
    for (let i = startAt(); i < trace.t_s.length; i++) trace.columns[tot]![i] = trace.columns[tot]![startAt()]!;
    const { verdict, learned } = outcomeOf(trace);
    expect(verdict).not.toBe('good');
    expect(learned).not.toContain(true);
  });

  test.each<[string, (t: number, i: number) => boolean]>([
    ['whole', () => false],
    ['one frame a second', (_, i) => i % 50 !== 0],
    ['a hole of half a second', (t) => t > t0() && t < t0() + 0.5],
  ])('%s: good', (_, hide) => {
    const { verdict, learned } = outcomeOf(without(hide));
    expect(verdict).toBe('good');
    expect(learned).toContain(true);
  });
});

describe('another try in the same run', () => {
  const type = typeOf('T2');

  test('after its actions and its rest the list comes back with what must be done again, and the second start is attempt two', () => {
    const preset = type.standIn.find((p) => p.id === 'no-spark')!;
    const run = flyPractice({ type: type as never, conditions: conditionsOf(type as never, preset), faults: preset.faults, corridors: {}, seed: 3, tries: 2 }); // oxfmt-ignore
    const again = run.entries.findIndex((e) => e.kind === 'try-again');
    expect(again).toBeGreaterThan(0);
    const entry = run.entries[again]!;
    const state = reduceRun(run.entries.slice(0, again + 1));
    expect(state.abort).toBeNull();
    expect(state.triedAgain).toHaveLength(1);
    const items = entry.kind === 'try-again' ? entry.items : [];
    expect(items).toEqual(expect.arrayContaining(['bus-volts', 'prime-primer', 'area-clear', 'start-engine']));
    expect(run.starts.map((s) => s.attempt)).toEqual([1, 2]);
    // the rest of the starter was kept
    const aborted = run.entries.find((e) => e.kind === 'abort')!;
    expect(entry.t - aborted.t).toBeGreaterThan(30);
  });
});
