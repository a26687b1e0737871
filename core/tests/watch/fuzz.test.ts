import fc from 'fast-check';
import { expect, test } from 'vitest';
import { SimulatedCockpit } from '@rouse/core/simulator';
import { snapshotOf, Watch, type WatchEvent } from '@rouse/core/watch';
import { channelIndex, skerry } from '../skerry.ts';

/** Frames of a start as a unit sends them, until idle. */
const FRAMES = ((): { t_s: number; values: Float64Array }[] => {
  const cockpit = new SimulatedCockpit(skerry, { env: { oat_c: 12 }, soc: 0.9 }, [], 5);
  const frames = [];
  for (let k = 1; k <= 45 * 50; k++) {
    const t_s = k / 50;
    if (k === 5) for (const control of ['battery', 'load.base_bus', 'boost']) cockpit.move({ control, to: 1 });
    if (k === 150) cockpit.move({ control: 'e1.mode', to: 'IDLE' });
    if (k === 150) cockpit.move({ control: 'e1.start', to: 1, release_s: 2 });
    frames.push({ t_s, values: Float64Array.from(cockpit.tick()) });
  }
  return frames;
})();

type Damage = {
  at: number;
  for: number;
  channel: number;
  kind: 'nan' | 'jump' | 'stuck' | 'drop' | 'repeat' | 'back';
  by: number;
};
const damage: fc.Arbitrary<Damage> = fc.record({
  at: fc.nat(FRAMES.length - 1),
  for: fc.integer({ min: 1, max: 200 }),
  channel: fc.nat(skerry.channels.length - 1),
  kind: fc.constantFrom('nan', 'jump', 'stuck', 'drop', 'repeat', 'back'),
  by: fc.double({ min: -1e6, max: 1e6, noNaN: true }),
});

/** The same start with damage done to it on the way. */
function spoil(damages: readonly Damage[]): { t_s: number; values: Float64Array }[] {
  const frames = FRAMES.map((f) => ({ t_s: f.t_s, values: Float64Array.from(f.values) }));
  const dropped = new Set<number>();
  const out: typeof frames = [];
  for (const d of damages)
    for (let i = d.at; i < Math.min(frames.length, d.at + d.for); i++) {
      const { values } = frames[i]!;
      if (d.kind === 'nan') values[d.channel] = NaN;
      if (d.kind === 'jump') values[d.channel]! += d.by;
      if (d.kind === 'stuck') values[d.channel] = frames[d.at]!.values[d.channel]!;
      if (d.kind === 'drop') dropped.add(i);
    }
  frames.forEach((f, i) => {
    if (dropped.has(i)) return;
    out.push(f);
    for (const d of damages) {
      if (d.at !== i) continue;
      if (d.kind === 'repeat') out.push(f);
      if (d.kind === 'back') out.push({ t_s: f.t_s - Math.abs(d.by % 5), values: f.values });
    }
  });
  return out;
}

function watched(frames: readonly { t_s: number; values: Float64Array }[]): WatchEvent[] {
  const events: WatchEvent[] = [];
  const watch = new Watch(skerry, {}, (e) => events.push(e));
  for (const { t_s, values } of frames) {
    watch.step(t_s, values);
    snapshotOf(watch, skerry);
  }
  return events;
}

const finished = (events: readonly WatchEvent[]): boolean => events.some((e) => e.kind === 'start-done');

test('undamaged, the start is good', () => {
  expect(finished(watched(FRAMES))).toBe(true);
});

test('whatever a unit sends, the watch does not throw, and its words have no nonsense in them', () => {
  fc.assert(
    fc.property(fc.array(damage, { minLength: 1, maxLength: 6 }), (damages) => {
      for (const event of watched(spoil(damages))) {
        if (event.kind !== 'cue' && event.kind !== 'abort') continue;
        expect(`${event.text} ${event.say}`).not.toMatch(/NaN|undefined|Infinity/);
      }
    }),
    { numRuns: 60 },
  );
});

test('a start that nobody could see is never called good', () => {
  for (const id of ['ng.1', 'tot.1']) {
    const from = FRAMES.findIndex((f) => f.t_s > 6);
    const blind = spoil([{ at: from, for: 10_000, channel: channelIndex(id), kind: 'nan', by: 0 }]);
    const events = watched(blind);
    expect(finished(events), id).toBe(false);
    expect(
      events.some((e) => e.kind === 'abort' || (e.kind === 'cue' && e.severity !== 'call')),
      id,
    ).toBe(true);
  }
});

test('frames that come twice, or late, change nothing that was judged', () => {
  const kinds = (events: readonly WatchEvent[]): string[] =>
    events.flatMap((e) => (e.kind === 'state' ? [e.state] : e.kind === 'abort' ? [e.reason] : []));
  fc.assert(
    fc.property(
      fc.array(
        fc.record({ at: fc.nat(FRAMES.length - 1), kind: fc.constantFrom('repeat' as const, 'back' as const) }),
        {
          minLength: 1,
          maxLength: 8,
        },
      ),
      (places) => {
        const damages = places.map((p) => ({ ...p, for: 1, channel: 0, by: 0.02 }));
        expect(kinds(watched(spoil(damages)))).toEqual(kinds(watched(FRAMES)));
      },
    ),
    { numRuns: 25 },
  );
});
