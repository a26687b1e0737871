import { describe, expect, test } from 'vitest';
import { Watch, type WatchEvent } from '@rouse/core/watch';
import { channelIndex, skerry } from '../skerry.ts';

/** Readings of a healthy aircraft in flight; each test moves one of them. */
const HEALTHY: Record<string, number> = {
  'ng.1': 82,
  'tot.1': 560,
  nr: 100,
  'np.1': 100,
  'tq.1': 30,
  'fuel.1.flow': 80,
  'oil.1.pressure': 5,
  'oil.1.temperature': 80,
  'bus.volts': 28.2,
  'battery.amps': -10,
  'generator.1.amps': 60,
  'gearbox.oil.pressure': 3.9,
  'gearbox.oil.temperature': 70,
  'hydraulic.1.pressure': 90,
  'hydraulic.2.pressure': 90,
  'outside.air': 12,
  'engine.1.selector': 2,
  'switch.battery': 1,
  'switch.boost': 1,
  'switch.generator.1': 1,
};

/** Holds one reading at a value for some seconds in flight, then back. */
function excursion(
  channel: string,
  value: number,
  seconds: number,
): { events: WatchEvent[]; cues: { severity: string; text: string; t_s: number }[] } {
  const events: WatchEvent[] = [];
  const watch = new Watch(skerry, {}, (e) => events.push(e));
  const values = new Float64Array(skerry.channels.length);
  for (const [id, v] of Object.entries(HEALTHY)) values[channelIndex(id)] = v;
  const good = values[channelIndex(channel)]!;
  for (let k = 0; k < (seconds + 4) * 50; k++) {
    const t_s = k / 50;
    values[channelIndex(channel)] = t_s > 1 && t_s <= 1 + seconds ? value : good;
    watch.step(t_s, values);
  }
  watch.finish(seconds + 4);
  return { events, cues: events.flatMap((e) => (e.kind === 'cue' ? [e] : [])) };
}

describe('limits in flight', () => {
  test('a healthy aircraft says nothing', () => {
    expect(excursion('tot.1', 560, 5).cues).toEqual([]);
  });

  test.each<[string, number, number, string, RegExp]>([
    ['oil.1.pressure', 2.9, 5, 'warning', /Engine oil pressure below 3\.5 bar for more than 3 s\. Selector to idle/],
    ['oil.1.temperature', 115, 1, 'warning', /above 114 °C, never allowed\. Reduce power; land/],
    ['gearbox.oil.pressure', 1.2, 7, 'warning', /Gearbox oil pressure below 1\.5 bar for more than 5 s/],
    ['gearbox.oil.temperature', 117, 1, 'warning', /above 116 °C, never allowed/],
    ['hydraulic.1.pressure', 40, 3, 'caution', /Hydraulic system 1 below 76 bar for more than 2 s/],
    ['bus.volts', 30.1, 2, 'warning', /Bus above 29\.6 V for more than 1 s\. Generator off/],
    ['bus.volts', 25, 12, 'caution', /Bus below 26\.4 V for more than 10 s/],
    ['nr', 111, 1, 'warning', /above 110 %, never allowed/],
    ['tot.1', 846, 1, 'warning', /above 845 °C, never allowed/],
    ['tq.1', 105, 9, 'warning', /Torque above 100 % for more than 8 s/],
  ])('%s at %d for %i s is a %s', (channel, value, seconds, severity, text) => {
    const { cues, events } = excursion(channel, value, seconds);
    const said = cues.filter((c) => text.test(c.text));
    expect(said, JSON.stringify(cues.map((c) => c.text))).toHaveLength(1);
    expect(said[0]!.severity).toBe(severity);
    const record = events.flatMap((e) => (e.kind === 'exceedance' && e.exceedance.expired ? [e.exceedance] : []));
    expect(record.length).toBeGreaterThan(0);
    expect(record.at(-1)!.peak).toBeCloseTo(value, 6);
  });

  test('inside the time allowed it is told at the entry, with what is left, and kept as time in band', () => {
    const { cues, events } = excursion('tot.1', 750, 20);
    expect(cues.map((c) => c.text)).toEqual(['Turbine outlet temperature above 728 °C: 300 s left. Reduce power.']);
    const [record] = events.flatMap((e) => (e.kind === 'exceedance' ? [e.exceedance] : []));
    expect(record).toMatchObject({ band: 'take-off', expired: false, allowed_s: 300 });
    expect(record!.duration_s).toBeCloseTo(20, 1);
  });

  test('a generator that works hard to refill the battery is not news until its minute is over', () => {
    expect(excursion('generator.1.amps', 200, 50).cues).toEqual([]);
    expect(excursion('generator.1.amps', 200, 62).cues.map((c) => c.severity)).toEqual(['caution']);
  });

  test('what is open at the end is written up', () => {
    const events: WatchEvent[] = [];
    const watch = new Watch(skerry, {}, (e) => events.push(e), 'flight');
    const values = new Float64Array(skerry.channels.length);
    for (const [id, v] of Object.entries(HEALTHY)) values[channelIndex(id)] = v;
    watch.step(0, values);
    values[channelIndex('tq.1')] = 95;
    watch.step(1, values);
    watch.step(2, values);
    watch.finish(2);
    expect(events.filter((e) => e.kind === 'exceedance')).toHaveLength(1);
  });
});
