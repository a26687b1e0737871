import { needWatched } from '@rouse/core/aircraft';
import { badDaysOf, type Deal, dealStart, decide, nextDifficulty, sumOf, truthOf } from '@rouse/core/drill';
import { describe, expect, test } from 'vitest';
import { fleet, typeOf } from '../fleet.ts';

describe.each(fleet.map((t) => t.id))('%s', (id) => {
  const type = needWatched(typeOf(id));
  const bad = badDaysOf(type);
  const dealt = Array.from({ length: 14 }, (_, i) => {
    const deal = dealStart(type, bad, 500 + i, 0.3);
    return { deal, truth: truthOf(type, deal) };
  });

  test('a healthy start is never one to stop, and a bad one could be told before its limit', () => {
    expect(dealt.filter(({ deal, truth }) => deal.wrong === null && truth.bad).map((d) => d.deal)).toEqual([]);
    const wrong = dealt.filter(({ truth }) => truth.bad);
    expect(wrong.length).toBeGreaterThan(1);
    for (const { truth } of wrong) expect(truth.tellable_s).toBeLessThanOrEqual(truth.late_s! + 0.5);
  });

  test('the same seed deals the same start, another seed another one', () => {
    expect(dealStart(type, bad, 500, 0.3)).toEqual(dealt[0]!.deal);
    expect(dealStart(type, bad, 501, 0.3)).not.toEqual(dealt[0]!.deal);
  });
});

describe('a decision is marked against the earliest moment at which a perfect watcher could tell', () => {
  const type = needWatched(typeOf('S7'));
  const bad = badDaysOf(type);
  const find = (wanted: (deal: Deal) => boolean): Deal => {
    for (let seed = 1; ; seed++) {
      const deal = dealStart(type, bad, seed, 0.2);
      if (wanted(deal)) return deal;
    }
  };
  const hot = find((d) => d.wrong === 'Hot start');
  const truth = truthOf(type, hot);
  const good = find((d) => d.wrong === null);

  test('stopped as fast as a hand can be: full marks, and the heat that was saved', () => {
    const { points, words, peak_C, took_s } = decide(type, hot, truth, truth.tellable_s! + 0.4);
    expect(points).toBe(10);
    expect(took_s).toBeCloseTo(0.4, 6);
    expect(peak_C!).toBeLessThan(truth.peak_C!);
    expect(words).toMatch(/Stopped 0\.4 s after it could be told, \d+ °C saved/);
  });

  test('later is less, letting a bad one go is nothing, and a guess is half', () => {
    const at = (s: number | null): number => decide(type, hot, truth, s).points;
    expect(at(truth.late_s! + 3)).toBeLessThan(at(truth.tellable_s! + 0.5));
    expect(at(truth.late_s! + 3)).toBeGreaterThan(0);
    expect(at(null)).toBe(0);
    expect(at(truth.tellable_s! - 1)).toBe(5);
  });

  test('a good one is let go; stopping it is a false alarm', () => {
    const fine = truthOf(type, good);
    expect(decide(type, good, fine, null)).toMatchObject({ points: 10, words: 'Good, and let go' });
    expect(decide(type, good, fine, 8)).toMatchObject({ points: 0, words: 'Stopped, and nothing was wrong' });
  });

  test('with a lost probe the heat is known all the same: it is the engine’s, not the reading’s', () => {
    const blind = find((d) => d.wrong === 'Temperature probe lost');
    const told = truthOf(type, blind);
    expect(told.bad).toBe(true);
    expect(told.peak_C!).toBeGreaterThan(400);
    const stopped = decide(type, blind, told, told.tellable_s! + 1);
    expect(stopped.peak_C!).toBeGreaterThan(0);
    expect(stopped.words).toMatch(/Stopped 1\.0 s after it could be told, \d+ °C saved/);
  });

  test('the difficulty follows the learner, and stays within its ends', () => {
    expect(nextDifficulty(0.3, { points: 10 })).toBeGreaterThan(0.3);
    expect(nextDifficulty(0.3, { points: 0 })).toBeLessThan(0.3);
    expect(nextDifficulty(1, { points: 10 })).toBe(1);
    expect(nextDifficulty(0, { points: 0 })).toBe(0);
    expect(sumOf([{ points: 10 }, { points: 5 }])).toBe(75);
  });
});
