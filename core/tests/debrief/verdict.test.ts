import { describe, expect, test } from 'vitest';
import { verdictOfRun } from '@rouse/core/debrief';
import { chainEntries, type Entry, type Payload } from '@rouse/core/procedure';
import { flyPreset, RUN_ID, skerry } from '../skerry.ts';

const read = (entries: readonly Entry[], habits: string[] = []) => verdictOfRun(skerry, entries, habits);
const journal = (...payloads: Payload[]): Entry[] =>
  chainEntries(
    RUN_ID,
    undefined,
    payloads.map((payload, i) => ({ id: `0193a000-0000-7000-8000-${String(i).padStart(12, '0')}`, at_ms: 1e12, t_s: i, by: 'watch', payload })), // oxfmt-ignore
  );
const cranking: Payload = { kind: 'start-state', watch: 'engine-1-start', state: 'cranking', words: '' };
const done = (verdict: 'good' | 'unknown'): Payload => ({
  kind: 'start-done',
  watch: 'engine-1-start',
  verdict,
  record: {},
});

describe('a run in a sentence', () => {
  test('good is said of a start that was seen whole, with what was unlike its habit', () => {
    expect(read(flyPreset('mild').entries, ['Light-off later than usual']).verdict).toMatch(/^A good start\. Light-off later than usual\./); // oxfmt-ignore
    expect(read(flyPreset('mild').entries).details).toMatch(
      /^\d+:\d\d from first item to ready · no exceedance · nothing skipped$/,
    );
  });

  test('never good where part of it was not seen, or it never came to idle', () => {
    expect(read(journal(cranking, done('unknown'))).verdict).toMatch(/unknown/);
    const cue: Payload = { kind: 'cue', code: 'start-unseen', severity: 'caution', text: '', say: '' };
    expect(read(journal(cranking, cue)).verdict).toMatch(/unknown/);
    expect(read(journal(cranking)).verdict).not.toMatch(/good/);
    expect(read(journal({ kind: 'mark', words: '' })).verdict).toBe('No start in this run.');
  });

  test('a stopped start says why; one that was tried again says both', () => {
    expect(read(flyPreset('hot-start').entries).verdict).toMatch(/stopped at \d+ °C/);
    const abort: Payload = {
      kind: 'abort',
      watch: 'engine-1-start',
      reason: 'hung',
      text: '',
      say: '',
      figure: '41 % Ng',
    };
    const again: Payload = { kind: 'try-again', watch: 'engine-1-start', items: [] };
    const { verdict, details } = read(journal(cranking, abort, again, cranking, done('good')));
    expect(verdict).toBe('Stopped before at 41 % Ng, and tried again. A good start.');
    expect(details).toContain('start 2 of this run');
  });
});
