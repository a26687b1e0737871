import { describe, expect, test } from 'vitest';
import { handStart, presentItem, procedureOf, reduceRun, type RunState } from '@rouse/core/procedure';
import { fleet, typeOf } from '../fleet.ts';

const type = typeOf('C5');
const item = type.items.find((i) => i.id === 'start-engine')!;
/** A run by hand whose moments of the start were tapped at these times. */
const tapped = (...t_s: number[]): RunState => ({ ...reduceRun([]), source: 'by-hand', stages: { [item.id]: t_s } });

describe('a start timed by hand', () => {
  test('before its first moment nothing has begun and nothing is due', () => {
    const start = handStart(type, tapped(), item)!;
    expect(start.began_s).toBeNull();
    expect(start.moments.map((m) => m.verdict)).toEqual(['next', 'ahead', 'ahead', 'ahead', 'ahead', 'ahead']);
    expect(start.moments.every((m) => m.due_s === null && m.at_s === null)).toBe(true);
  });

  test('each moment counts from the first, and the next is due from the one before', () => {
    const start = handStart(type, tapped(100, 104.5, 109), item)!;
    expect(start.began_s).toBe(100);
    expect(start.moments.slice(0, 3).map((m) => m.at_s)).toEqual([0, 4.5, 9]);
    expect(start.moments[3]).toMatchObject({ verdict: 'next', due_s: 109 + 15 });
    // nothing else is due: not what came, not what is far ahead, not what has no time of its own
    expect(start.moments.map((m) => m.due_s)).toEqual([null, null, null, 124, null, null]);
    expect(handStart(type, tapped(100), item)!.moments.map((m) => m.due_s === null)).toEqual(
      start.moments.map((m, i) => i !== 1 || m.stage.within_s === undefined),
    );
  });

  test('a moment that came after its time is late, and stays late', () => {
    const late = handStart(type, tapped(100, 104, 111), item)!;
    expect(late.moments[2]!.verdict).toBe('late'); // light-off seven seconds after fuel, six allowed
    expect(handStart(type, tapped(100, 104, 111, 115), item)!.moments[2]!.verdict).toBe('late');
    expect(handStart(type, tapped(100, 104, 110), item)!.moments[2]!.verdict).toBe('in-time');
  });

  test('says what nobody can judge, for each kind of engine', () => {
    expect(handStart(type, tapped(), item)!.notJudged.join()).toMatch(/temperature/);
    const piston = typeOf('T2');
    const start = piston.items.find((i) => i.id === 'start-engine')!;
    expect(handStart(piston, reduceRun([]), start)!.notJudged.join()).toMatch(/charging/);
  });

  test('an item without moments is not timed', () => {
    expect(handStart(type, tapped(), type.items[0]!)).toBeNull();
  });
});

test.each(fleet.map((t) => t.id))(
  '%s can be started by hand: every watched item has moments, every turbine asks its peak',
  (id) => {
    const of = typeOf(id);
    const byHand = procedureOf(of, { ...reduceRun([]), source: 'by-hand' });
    for (const watched of byHand.filter((i) => i.kind === 'watch'))
      expect(watched.kind === 'watch' && watched.moments !== undefined, watched.id).toBe(true);
    const peaks = byHand.filter((i) => i.id.startsWith('peak'));
    const engines = of.engines.filter((e) => e.kind === 'turbine').length;
    expect(peaks).toHaveLength(engines);
    const sensed = procedureOf(of, { ...reduceRun([]), source: 'stand-in' });
    expect(sensed.filter((i) => i.id.startsWith('peak'))).toEqual([]);
    expect(presentItem(of, { ...reduceRun([]), status: 'open' })?.id).toBe(of.items[0]!.id);
  },
);
