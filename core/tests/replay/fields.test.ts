import { describe, expect, test } from 'vitest';
import type { TimeFormat } from '@rouse/core/replay';
import { FigureField } from '../../src/replay/figure-field.ts';
import { type RowPlace, SameTimes } from '../../src/replay/same-times.ts';
import { TimeField } from '../../src/replay/time-field.ts';

/** A field in the middle of a row: what stands beside it must not be read. */
function inRow<T>(field: string, read: (bytes: Uint8Array, from: number, to: number) => T): T {
  const bytes = new TextEncoder().encode(`9${field}9`);
  return read(bytes, 1, bytes.length - 1);
}

describe('a figure', () => {
  const comma = (): FigureField => new FigureField(',', []);
  const read = (field: string, by = new FigureField('.', ['-999', ' Lost '])): number | null =>
    inRow(field, (...at) => by.read(...at));

  test.each<[string, number]>([
    ['0', 0],
    ['7', 7],
    ['-12.5', -12.5],
    ['+12.5', 12.5],
    ['  3.25 ', 3.25],
    ['"3.25"', 3.25],
    ['.5', 0.5],
    ['5.', 5],
    ['0.001', 0.001],
    ['123456789012345', 123456789012345],
    ['0.1234567890123456', 0.1234567890123456],
    ['1234567890123456', 1234567890123456],
    ['1e3', 1000],
    ['-2.5E-1', -0.25],
  ])('%j is %d', (field, figure) => {
    expect(read(field)).toBe(figure);
  });

  test('with a decimal comma is read so, and a point is none there', () => {
    expect(read('12,75', comma())).toBe(12.75);
    expect(read('-0,5', comma())).toBe(-0.5);
    expect(read('1,5e2', comma())).toBe(150);
    expect(read('12,75')).toBeNull();
  });

  test.each(['', '  ', '""', 'NaN', 'n/a', '#N/A', '---', '-', '****', '???', '...', '-999', 'lost', 'LOST', 'off'])(
    '%j is no reading',
    (field) => {
      expect(read(field)).toBeNaN();
    },
  );

  test.each(['abc', '1.2.3', '1,2', '--5', '5-', '+', '12 5', '0x', 'Infinity', '1e999', '-9999 C'])(
    '%j is neither',
    (field) => {
      expect(read(field)).toBeNull();
    },
  );

  test('what the file writes for no reading is no reading for another file', () => {
    expect(read('-999', comma())).toBe(-999);
    expect(read('lost', comma())).toBeNull();
  });
});

describe('a time', () => {
  const read = (format: TimeFormat, ...fields: string[]): number[] => {
    const times = new TimeField(format, new FigureField('.', []));
    return fields.map((field) => inRow(field, (...at) => times.read(...at)));
  };

  test('in seconds, milliseconds or days', () => {
    expect(read('seconds', '12.25', 'x', '')).toEqual([12.25, NaN, NaN]);
    expect(read('milliseconds', '12250', 'x')).toEqual([12.25, NaN]);
    expect(read('days', '1.5', '0.000011574', 'x')).toEqual([129_600, 1, NaN]);
    expect(read('rows', '5')).toEqual([NaN]);
    expect(read('unknown', '5')).toEqual([NaN]);
  });

  test('of a clock: hours or none, fractions with point or comma, in quotes or blanks', () => {
    expect(read('clock', '01:02:03', '62:03', '1:02:03.25', '1:02:03,5', ' "1:02:04" ')).toEqual([3723, 3723, 3723.25, 3723.5, 3724]); // oxfmt-ignore
    expect(read('clock', '0:00:00.125')[0]).toBeCloseTo(0.125, 9);
  });

  test.each(['10', '1:2:3:4', ':', '::', 'noon', '10:00x', '10-00-00'])('%j is no clock', (field) => {
    expect(read('clock', field)).toEqual([NaN]);
  });

  test('of two halves of a day', () => {
    expect(read('clock', '12:00:00 AM', '1:00:00 am', '11:59:59 AM', '12:00:00 PM', '1:00:00 p', '11:00:00pm')).toEqual([0, 3600, 43_199, 43_200, NaN, 82_800]); // oxfmt-ignore
    expect(read('clock', '1:00:00 xm', 'am', 'pm')).toEqual([NaN, NaN, NaN]);
    expect(read('clock', '"1:00:00 PM" ')).toEqual([46_800]);
  });

  test('goes on past midnight, and a clock that was set back by less does not', () => {
    expect(read('clock', '23:59:59', '00:00:01', '00:00:02', '23:00:00', '00:30:00')).toEqual([86_399, 86_401, 86_402, 169_200, 174_600]); // oxfmt-ignore
    expect(read('clock', '13:00:00', '01:00:00')).toEqual([46_800, 3600]);
    expect(read('clock', '13:00:01', '01:00:00')).toEqual([46_801, 90_000]);
  });

  test('of a date, with a zone or taken as UTC', () => {
    const at = Date.UTC(2026, 10, 25, 8) / 1000;
    expect(read('date-time', '2026-11-25T08:00:00Z', '2026-11-25 08:00:00', '2026-11-25T09:00:00+01:00', '2026-11-25T07:00:00-0100', '"2026-11-25 08:00:00,25"', 'then')).toEqual([at, at, at, at, at + 0.25, NaN]); // oxfmt-ignore
  });
});

describe('rows of one time stamp', () => {
  const place = (line: number): RowPlace => ({ offset: 10 * line, line, first_s: 0, day_s: 0, clock_s: NaN, rows: line }); // oxfmt-ignore
  function given(stamps: readonly number[]): { out: number[][]; repeated: number; spread: SameTimes } {
    const out: number[][] = [];
    const spread = new SameTimes((t_s, values, line, at) => out.push([t_s, values[0]!, line, at.line]));
    const values = new Float64Array(1);
    stamps.forEach((t_s, i) => {
      values[0] = i;
      spread.row(t_s, values, i + 1, place(i));
    });
    spread.end();
    return { out, repeated: spread.repeated, spread };
  }

  test('are given with the next stamp, each with its figures, its line and the place of their first', () => {
    const { out, repeated } = given([0, 0, 1, 2]);
    expect(out).toEqual([
      [0, 0, 1, 0],
      [0.5, 1, 2, 0],
      [1, 2, 3, 2],
      [2, 3, 4, 3],
    ]);
    expect(repeated).toBe(1);
  });

  test('at the end of the file are spread as those before them; with none before, over a second', () => {
    expect(given([1, 1, 1.5, 1.5]).out.map(([t]) => t)).toEqual([1, 1.25, 1.5, 1.75]);
    expect(given([0, 0]).out.map(([t]) => t)).toEqual([0, 0.5]);
    expect(given([]).out).toEqual([]);
  });

  test('before a hole are not stretched over it', () => {
    expect(given([0, 0, 30]).out.map(([t]) => t)).toEqual([0, 0.5, 30]);
    expect(given([0, 30, 30]).out.map(([t]) => t)).toEqual([0, 30, 30.5]);
  });

  test('without end are given in parts, so that memory does not grow', () => {
    const { out, repeated } = given(Array.from({ length: 2001 }, () => 5));
    expect(out).toHaveLength(2001);
    expect(repeated).toBe(2000);
    expect(out[1999]![0]).toBeCloseTo(5.9995, 9);
    expect(out[2000]![0]).toBe(5);
  });

  test('what was held back is forgotten where reading begins anew', () => {
    const { spread, out } = given([3]);
    spread.row(4, new Float64Array(1), 9, place(8));
    spread.reset();
    spread.row(1, new Float64Array(1), 2, place(1));
    spread.end();
    expect(out.map(([t]) => t)).toEqual([3, 1]);
  });
});
