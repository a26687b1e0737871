import { expect, test } from 'vitest';
import { storyOf } from '@rouse/core/debrief';
import { compareStart } from '@rouse/core/health';
import { legSpans, reduceRun } from '@rouse/core/procedure';
import { flyPreset, skerry } from '../skerry.ts';

const told = (preset: string, skips: string[] = []) => {
  const run = flyPreset(preset, null, 5, skips);
  const starts = run.starts.map(({ features }) => ({ features, compared: compareStart(features, []) }));
  return { run, story: storyOf(skerry, run.entries, starts) };
};

test('a good run has little to tell, and its legs hold every entry once', () => {
  const { run, story } = told('mild');
  expect(story.moments.filter((m) => m.weight === 'warning')).toEqual([]);
  expect(story.moments.length).toBeLessThanOrEqual(7);
  const seqs = story.legs.flatMap((l) => l.seqs);
  expect(seqs).toEqual(run.entries.map((e) => e.seq));
  const spans = legSpans(skerry, reduceRun(run.entries), run.entries.at(-1)!.t);
  expect(story.legs.map((l) => l.label)).toEqual(spans.map((s) => s.label));
});

test('a stopped start is told first by what it was stopped for, at its own time', () => {
  const { run, story } = told('hot-start');
  const abort = run.entries.find((e) => e.kind === 'abort')!;
  const moment = story.moments.find((m) => m.seq === abort.seq)!;
  expect(moment).toMatchObject({ t_s: abort.t, weight: 'warning' });
  expect(moment.title).toMatch(/^Abort/);
  expect(story.moments.map((m) => m.t_s)).toEqual(story.moments.map((m) => m.t_s).toSorted((a, b) => a - b));
});

test('what was left out is told with its reason, and what that can cost', () => {
  const { run, story } = told('mild', ['blades']);
  const skipped = run.entries.find((e) => e.kind === 'item-skipped')!;
  expect(story.moments.find((m) => m.seq === skipped.seq)!.title).toMatch(/skipped/);
  expect(story.advice.some((a) => a.words.includes('left out'))).toBe(true);
});

test('a figure outside all that the tail has shown is a moment; one inside is none', () => {
  const { run } = told('mild');
  const [start] = run.starts;
  const usual = Array.from({ length: 12 }, (_, i) => ({ ...start!.features, lightOff_s: 3 + 0.01 * i }));
  const story = storyOf(skerry, run.entries, [{ features: start!.features, compared: compareStart(start!.features, usual) }]); // oxfmt-ignore
  const late = story.moments.find((m) => m.title.startsWith('Light-off'))!;
  expect(late.title).toBe('Light-off higher than its habit');
  expect(late.t_s).toBeCloseTo(start!.features['starterAt_s']! + start!.features['lightOff_s']!, 1);
  const same = storyOf(skerry, run.entries, [{ features: start!.features, compared: compareStart(start!.features, Array.from({ length: 12 }, () => start!.features)) }]); // oxfmt-ignore
  expect(same.moments.filter((m) => m.title.includes('habit'))).toEqual([]);
});
