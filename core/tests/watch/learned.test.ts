import { describe, expect, test } from 'vitest';
import { dayOf, learnCorridor, Watch, type WatchEvent } from '@rouse/core/watch';
import { channelIndex, flyPreset, habit, skerry } from '../skerry.ts';

describe('the corridor', () => {
  test('never excludes a start that it was learned from', () => {
    const runs = Array.from({ length: 8 }, (_, i) => flyPreset('mild', null, 40 + i));
    const learned = runs.map((r) => r.starts[0]!).map((s) => ({ profile: s.profile, day: dayOf(s.record) }));
    const corridor = learnCorridor(learned)!;
    for (const { profile } of learned) {
      profile.totMax_C.forEach((v, i) => expect(Number.isNaN(v) || v <= corridor.upperTot_C[i]!).toBe(true));
      profile.totMin_C.forEach((v, i) => expect(Number.isNaN(v) || v >= corridor.lowerTot_C[i]!).toBe(true));
    }
    const [wide, mid, narrow] = corridor.contours;
    corridor.upperTot_C.forEach((_, i) => {
      if (Number.isNaN(wide!.low_C[i]!)) return;
      const nested =
        wide!.low_C[i]! <= mid!.low_C[i]! &&
        mid!.low_C[i]! <= narrow!.low_C[i]! &&
        narrow!.high_C[i]! <= mid!.high_C[i]! &&
        mid!.high_C[i]! <= wide!.high_C[i]!;
      expect(nested).toBe(true);
    });
    expect(corridor.days.map((d) => d.outsideAir_C)).toEqual(learned.map(() => 12));
  });

  test('the alarm is silent until fuel is on, however hot the engine still is', () => {
    const { trace, starts } = flyPreset('mild', null, 60);
    const one = { profile: starts[0]!.profile, day: dayOf(starts[0]!.record) };
    const corridor = learnCorridor(Array.from({ length: 8 }, () => one))!;
    const events: WatchEvent[] = [];
    const watch = new Watch(skerry, habit(corridor), (e) => events.push(e));
    const fuel = trace.columns[channelIndex('fuel.1.flow')]!;
    const hot = {
      ...trace,
      columns: trace.columns.map((c, k) =>
        k === channelIndex('tot.1') ? c.map((v, i) => (fuel[i]! > 1 ? v : v + 150)) : c,
      ),
    };
    watch.replay({ ...hot, t_s: hot.t_s.slice(0, 3200), columns: hot.columns.map((c) => c.slice(0, 3200)) });
    const before = events.filter((e) => e.kind === 'abort' && e.t_s < starts[0]!.record.fuelAt_s);
    expect(before).toEqual([]);
  });
});
