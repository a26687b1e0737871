import { expect, test } from 'vitest';
import { flyPractice } from '@rouse/core/drill';
import { itemState, reduceRun, workingList } from '@rouse/core/procedure';
import { flyPreset, skerry } from '../skerry.ts';

test('the same seed flies the same run to the last byte, another seed another', () => {
  const a = flyPreset('mild', null, 5);
  const b = flyPreset('mild', null, 5);
  expect(b.entries).toEqual(a.entries);
  expect(b.trace).toEqual(a.trace);
  expect(flyPreset('mild', null, 6).entries).not.toEqual(a.entries);
});

/** conditions under which the engine starts, and a check of the run-up finds what is wrong */
const FOUND_BY_CHECKS = ['hydraulics-lost', 'load-missing', 'load-doubled', 'bearing-drags', 'worn-turbine'];

test('every stand-in condition ends by itself: ready when it is good, aborted with its actions worked when it is not', () => {
  for (const preset of skerry.standIn.filter((p) => !FOUND_BY_CHECKS.includes(p.id))) {
    const run = flyPreset(preset.id);
    const good = preset.faults.length === 0 && preset.id !== 'weak-battery';
    expect(run.outcome, preset.id).toBe(good ? 'ready' : 'aborted');
    const state = reduceRun(run.entries);
    expect(
      workingList(skerry, state)
        .filter((i) => itemState(state, i.id).status === 'todo')
        .map((i) => i.id),
      preset.id,
    ).toEqual([]);
    expect(
      run.starts.map((s) => s.good),
      preset.id,
    ).toEqual([good]);
  }
});

test.each([
  ['hydraulics-lost', 'given-up', 'hydraulics', 'system-2-low'],
  ['load-missing', 'ready', 'load-steps', 'load-missing'],
  ['load-doubled', 'ready', 'load-steps', 'load-excess'],
])('%s ends %s: a no-go holds the departure, a caution is taken along', (preset, outcome, item, cause) => {
  const run = flyPreset(preset);
  expect(run.outcome).toBe(outcome);
  const state = reduceRun(run.entries);
  expect(itemState(state, item).status).toBe('fault');
  expect(run.entries.flatMap((e) => (e.kind === 'measured' ? [e.cause] : []))).toContain(cause);
});

test('a switch that does not follow is recorded as a fault, and the pilot goes on', () => {
  const run = flyPreset('hung-start');
  const faults = run.entries.flatMap((e) => (e.kind === 'item-fault' ? [e.item] : []));
  expect(faults).toContain('hung-motor'); // the starter that dropped out cannot motor
});

test('a no-go before the start is not flown past', () => {
  const run = flyPractice({
    type: skerry,
    conditions: { soc: 0.15, batt_age: 2 },
    faults: [],
    corridors: {},
    seed: 1,
    limit_s: 200,
  });
  expect(run.outcome).toBe('given-up');
  expect(run.entries.some((e) => e.kind === 'item-fault' && e.item === 'bus-volts')).toBe(true);
  expect(run.entries.some((e) => e.kind === 'start-state')).toBe(false);
});

test('the trace is what a unit sends: every value on the step of its channel', () => {
  const { trace } = flyPreset('weak-battery');
  trace.columns.forEach((column, c) => {
    const steps = 1 / skerry.channels[c]!.resolution;
    for (let i = 0; i < column.length; i += 97)
      expect(Math.abs(column[i]! * steps - Math.round(column[i]! * steps))).toBeLessThan(1e-6);
  });
  expect(trace.t_s[0]).toBe(0.02);
});
