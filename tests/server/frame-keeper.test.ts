import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { Channel } from '@rouse/core/aircraft';
import { rowsBetween, traceDigest } from '@rouse/core/session';
import { decodeChunk, encodeChunk, type Trace, TraceBuilder } from '@rouse/core/trace';
import { FrameKeeper } from '../../server/src/live/frame-keeper.ts';
import { unpack } from '../../server/src/outbox/gathered.ts';

const channels = [{ id: 'ng', resolution: 0.1 }, { id: 'tot', resolution: 1 }] as unknown as Channel[]; // oxfmt-ignore
const ids = channels.map((c) => c.id);
const resolutions = channels.map((c) => c.resolution);

// what happens to a keeper: frames come, are taken to the outbox, are stored, are sealed
const acts = fc.array(fc.constantFrom('frames', 'take', 'frames', 'store', 'take', 'seal'), { maxLength: 120 });

test('seals cover every frame that was taken once, in order; what is not stored, and the last minutes, are at hand', () => {
  fc.assert(
    fc.property(acts, fc.integer({ min: 1, max: 400 }), (told, step_ms) => {
      const keeper = new FrameKeeper(channels);
      const all = new TraceBuilder(ids);
      let [t_ms, taken, taken_s, sealed, stored_s] = [0, 0, -Infinity, 0, -Infinity];
      const does = {
        frames(): void {
          for (let i = 0; i < 60; i++) {
            // a unit's clock has more decimals than are kept
            const [t_s, values] = [(t_ms += step_ms) / 1000 + 0.0003, [i / 10, 400 + i]];
            keeper.push(t_s, values);
            all.push(t_s, values);
          }
        },
        take(): void {
          const part = keeper.take();
          expect(part ? decodeChunk(Buffer.from(part.data, 'base64'), ids).t_s.length : 0).toBe(all.length - taken);
          taken = all.length;
          taken_s = part?.last_s ?? taken_s;
        },
        store: (): void => keeper.stored((stored_s = taken_s)),
        seal(): void {
          const covered = rows(all.view(), sealed, taken);
          const [frames, digest] = [covered.t_s.length, traceDigest(covered, resolutions)];
          const to_s = Math.round(1000 * (covered.t_s.at(-1) ?? 0)) / 1000;
          expect(keeper.seal()).toEqual(frames === 0 ? null : { to_s, frames, digest });
          sealed = taken;
        },
      };
      for (const act of told) {
        does[act]();
        const recent = keeper.recent();
        const wanted_s = Math.min(stored_s, t_ms / 1000 - 180);
        const wanted = rowsBetween(all.view(), wanted_s, Infinity);
        expect(recent.t_s.length).toBeGreaterThanOrEqual(wanted.t_s.length);
        expect(recent.t_s.length).toBeLessThanOrEqual(all.length);
        expect(recent.columns[1]!.slice(-20)).toEqual(all.view().columns[1]!.slice(-20));
      }
    }),
    { numRuns: 60 },
  );
});

test('a run that is taken up goes on where its last seal ended', () => {
  const trace = new TraceBuilder(ids);
  for (let i = 0; i < 12_000; i++) trace.push(i / 50, [i % 700 / 10, 500]); // oxfmt-ignore
  const keeper = new FrameKeeper(channels);
  keeper.takeUp(trace.toTrace(), 100);
  expect(keeper.recent().t_s.length).toBeGreaterThanOrEqual(180 * 50);
  keeper.push(240, [60, 500]);
  keeper.take();
  trace.push(240, [60, 500]);
  const seal = keeper.seal()!;
  expect(seal.to_s).toBe(240);
  expect(seal.digest).toBe(traceDigest(rowsBetween(trace.toTrace(), 100, Infinity), resolutions));
  expect(keeper.seal()).toBeNull();
});

function rows(trace: Trace, from: number, to: number): Trace {
  return {
    channels: ids,
    t_s: trace.t_s.slice(from, to),
    columns: trace.columns.map((column) => column.slice(from, to)),
  };
}

test('frames that cannot be read hold those around them up no longer', () => {
  const chunkOf = (from_s: number): Uint8Array => {
    const rows = new TraceBuilder(ids);
    for (let i = 0; i < 5; i++) rows.push(from_s + i, [i, 400]);
    return encodeChunk(rows.view(), resolutions, 'plain');
  };
  const cut = chunkOf(20).slice(0, -9);
  const chunks = [chunkOf(10), new Uint8Array([1, 2, 3]), cut, chunkOf(30)];
  const held = { run: null as never, chunks, after_s: 11, from_s: 11, to_s: 34 };
  const { frames, unreadable } = unpack(held, ids);
  expect([...frames.t_s]).toEqual([12, 13, 14, 30, 31, 32, 33, 34]);
  expect(unreadable).toEqual([chunks[1], cut]);
  expect(unpack({ ...held, chunks: [chunks[0]!] }, ids)).toMatchObject({ unreadable: [] });
  expect(unpack({ ...held, chunks: [cut] }, ids).frames.t_s).toHaveLength(0);
});
