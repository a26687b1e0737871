import type { WatchedType } from '@rouse/core/aircraft';
import { tryStart } from '@rouse/core/replay';
import type { Trace } from '@rouse/core/trace';
import { describe, expect, test } from 'vitest';
import { flyPreset, once, skerry } from '../skerry.ts';

/** The type with every band of a limit moved; a band that is passed at once calls at once. */
const moved = (id: string, by: number): WatchedType => ({
  ...skerry,
  limits: skerry.limits.map((limit) =>
    limit.id === id ? { ...limit, bands: limit.bands.map((b) => ('above' in b ? { ...b, above: b.above + by } : b)) } : limit,
  ),
}); // oxfmt-ignore

describe('a recorded start under two versions of its type', () => {
  const flown = once(() => flyPreset('mild').trace);
  const [spec] = skerry.startWatches;
  const limit = skerry.limits.find((l) => spec.kind === 'turbine' && l.channel === spec.channels.temperature && l.phases.includes('start'))!.id; // oxfmt-ignore

  test('that say the same is as before, and a call-out is no word of it', () => {
    const tried = tryStart(skerry, skerry, flown());
    expect(tried.outcome).toBe('as-before');
    expect(tried.before).toEqual(tried.after);
    expect(tried.before.some((c) => c.stops)).toBe(false);
    expect(tried.before.some((c) => /light-off/i.test(c.text))).toBe(false);
  });

  test('of which one would stop it', () => {
    const lower = moved(limit, -300);
    const stopped = tryStart(skerry, lower, flown());
    expect(stopped.outcome).toBe('stopped');
    expect(stopped.after.find((c) => c.stops)!.t_s).toBeGreaterThan(flown().t_s[0]!);
    expect(tryStart(lower, skerry, flown()).outcome).toBe('no-longer-stopped');
    expect(tryStart(lower, lower, flown()).outcome).toBe('as-before');
    expect(tryStart(lower, moved(limit, -310), flown()).outcome).toBe('told-otherwise');
  });

  test('of which one only warns where the other says nothing', () => {
    const { outcome, before, after } = tryStart(skerry, moved('oil-temperature', -200), flown());
    expect(outcome).toBe('told-otherwise');
    const added = after.filter((c) => !before.some((b) => b.text === c.text));
    expect(added).toMatchObject([{ stops: false, text: expect.stringMatching(/oil temp/i) as string }]);
    expect(added[0]!.t_s).toBeGreaterThan(flown().t_s[0]!);
  });

  test('a channel that was not recorded is unknown, and one that nobody has is not read', () => {
    const trace = flown();
    const tot = trace.channels.indexOf('tot.1');
    const without: Trace = {
      channels: ['other', ...trace.channels.filter((_, i) => i !== tot)],
      t_s: trace.t_s,
      columns: [trace.columns[tot]!, ...trace.columns.filter((_, i) => i !== tot)],
    };
    const { outcome, before } = tryStart(skerry, moved(limit, -300), without);
    expect(outcome).not.toBe('stopped');
    expect(before).not.toEqual(tryStart(skerry, skerry, flown()).before);
    expect(tryStart(skerry, skerry, { channels: [], t_s: new Float64Array(), columns: [] })).toEqual({ outcome: 'as-before', before: [], after: [] }); // oxfmt-ignore
  });
});
