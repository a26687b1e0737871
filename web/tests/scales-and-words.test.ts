import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { bandWords } from '@rouse/core/aircraft';
import { bandPath } from '../src/charts/band-path.ts';
import { linearScale } from '../src/charts/scale.ts';
import { dayAndTime, minutes, outcomeInWords, stopwatch } from '../src/ui/words.ts';

describe('scales', () => {
  test('the ends of the domain lie on the ends of the pixels, whichever way they run', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: -500, max: 500 }),
        fc.integer({ min: 1, max: 900 }),
        fc.integer({ min: 0, max: 400 }),
        fc.integer({ min: 401, max: 900 }),
        (low, span, p, q) => {
          const up = linearScale([low, low + span], [q, p]);
          expect(up(low)).toBeCloseTo(q, 6);
          expect(up(low + span)).toBeCloseTo(p, 6);
          expect(up(low + span / 2)).toBeCloseTo((p + q) / 2, 6);
        },
      ),
    );
  });

  test('a band is broken where either edge is unknown, and where all is unknown nothing is drawn', () => {
    const x = linearScale([0, 10], [0, 100]);
    const y = linearScale([0, 10], [100, 0]);
    const path = bandPath([0, 1, 2, 3, 4, 5], [1, 1, NaN, 1, 1, 1], [2, 2, 2, 2, 2, NaN], x, y);
    expect(path.match(/M/g)).toHaveLength(2);
    expect(path).not.toContain('NaN');
    expect(bandPath([0, 1], [NaN, NaN], [2, 2], x, y)).toBe('');
  });
});

describe('words', () => {
  test('times are said as a stopwatch or in minutes, and what is unknown is a dash', () => {
    expect(stopwatch(14.24)).toBe('00:14.2');
    expect(stopwatch(61)).toBe('01:01.0');
    expect(stopwatch(-1)).toBe('00:00.0');
    expect(minutes(400)).toBe('6:40');
    expect(minutes(59.6)).toBe('1:00');
    expect(minutes(null)).toBe('–');
    expect(minutes(Infinity)).toBe('–');
  });

  test('limits say their time, or never', () => {
    const band = { id: 'A', counting: 'continuous', severity: 'caution', action: '' } as const;
    expect(bandWords({ ...band, above: 770, forSeconds: 8 }, '°C')).toBe('8 s above 770');
    expect(bandWords({ ...band, above: 900, forSeconds: 0 }, '°C')).toBe('never above 900 °C');
    expect(bandWords({ ...band, below: 13.2, forSeconds: 1 }, 'V')).toBe('1 s below 13.2');
  });

  test('days and outcomes are plain', () => {
    expect(dayAndTime('2026-11-25T08:41:00.000Z')).toMatch(/^25 Nov, \d\d:\d\d$/);
    expect(outcomeInWords('aborted')).toBe('Start aborted');
    expect(outcomeInWords(null)).toBe('Open');
  });
});
