import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { parseReport, reportTime } from '@rouse/core/weather';
import { attempt, isRefusal } from '@rouse/core/quantity';

const WHOLE = 'METAR QXVA 250830Z 24012G21KT 200V280 9999 -RA BKN022 03/01 Q1008 NOSIG=';
const body = (groups: string) => parseReport(`METAR QXVA 250830Z ${groups}`);
const codes = (list: readonly { code: string }[]): string[] => list.map((n) => n.code);

describe('a whole report', () => {
  test('every group has its figure', () => {
    const report = parseReport(WHOLE);
    expect(report.status).toBe('ok');
    expect(report).toMatchObject({ station: 'QXVA', day: 25, hour: 8, minute: 30, temp_C: 3, dew_C: 1 });
    expect(report.wind).toMatchObject({
      kind: 'steady',
      dir_deg: 240,
      speed_kt: 12,
      gust_kt: 21,
      from_deg: 200,
      to_deg: 280,
    });
    expect(report.pressure).toMatchObject({ qnh_hPa: 1008 });
  });

  test('case, blanks and the word before it do not matter', () => {
    const plain = parseReport(WHOLE);
    expect(parseReport(WHOLE.toLowerCase().replaceAll(' ', '  \n'))).toEqual(plain);
    expect(codes(parseReport(WHOLE.replace('METAR ', '')).warnings)).toContain('TYPE_ASSUMED');
  });

  test('a trend never replaces what is now', () => {
    for (const trend of ['TEMPO 30045G60KT', 'BECMG 30045KT 20/20 Q0950', 'RMK 30045KT A2700']) {
      const report = body(`24012KT 9999 03/01 Q1008 ${trend}`);
      expect(report.wind).toMatchObject({ dir_deg: 240, speed_kt: 12 });
      expect(report.pressure).toMatchObject({ qnh_hPa: 1008 });
    }
  });
});

describe('the wind group', () => {
  test.each([
    ['00000KT', { kind: 'calm', speed_kt: 0 }],
    ['VRB03KT', { kind: 'variable', dir_deg: null, speed_kt: 3 }],
    ['///12KT', { kind: 'direction-missing' }],
    ['/////KT', { kind: 'missing' }],
    ['36010KT', { kind: 'steady', dir_deg: 360, speed_kt: 10 }],
    ['240P99KT', { kind: 'steady', at_least: true, speed_kt: 99 }],
  ])('%s', (group, expected) => {
    expect(body(`${group} 9999 03/01 Q1008`).wind).toMatchObject(expected);
  });

  test('metres a second become knots', () => {
    const { wind } = body('24010G15MPS 9999 03/01 Q1008');
    expect(wind!.speed_kt).toBeCloseTo(19.438, 3);
    expect(wind!.gust_kt).toBeCloseTo(29.158, 3);
  });

  test.each(['37010KT', '24012G10KT', '00010KT', '24000KT', '2401KT', '24012G12KT'])('%s makes no sense', (group) => {
    const report = body(`${group} 9999 03/01 Q1008`);
    expect(report.wind).toBeNull();
    expect(report.errors).toMatchObject([{ code: 'BAD_WIND', token: group }]);
    expect(report.status).toBe('partial');
    expect(report.temp_C).toBe(3);
  });

  test('one unit is not read, and a second wind does not count', () => {
    expect(codes(body('24020KMH 9999 03/01 Q1008').errors)).toContain('UNSUPPORTED_UNIT');
    const twice = body('24012KT 30045KT 9999 03/01 Q1008');
    expect(twice.wind).toMatchObject({ dir_deg: 240 });
    expect(codes(twice.errors)).toEqual(['DUPLICATE_GROUP']);
  });

  test('a range is clockwise, and a mean outside it is said', () => {
    expect(body('24012KT 350V030 9999 03/01 Q1008').warnings).toMatchObject([{ code: 'MEAN_OUTSIDE_RANGE' }]);
    expect(body('01012KT 350V030 9999 03/01 Q1008').warnings).toEqual([]);
    expect(codes(body('VRB03KT 350V030 9999 03/01 Q1008').errors)).toEqual(['BAD_WIND_RANGE']);
  });
});

describe('temperature and pressure', () => {
  test.each([
    ['M03/M05', -3, -5],
    ['M00/M01', 0, -1],
    ['12///', 12, null],
    ['12/', 12, null],
  ])('%s', (group, temp_C, dew_C) => {
    const report = body(`24012KT 9999 ${group} Q1008`);
    expect(report.temp_C === 0 ? 0 : report.temp_C).toBe(temp_C);
    expect(report.dew_C).toBe(dew_C);
    expect(report.status).toBe('ok');
  });

  test('a dew point above the temperature leaves the temperature', () => {
    const report = body('24012KT 9999 03/05 Q1008');
    expect(report).toMatchObject({ temp_C: 3, dew_C: null });
    expect(codes(report.errors)).toEqual(['DEW_ABOVE_TEMP']);
  });

  test.each(['Q0800', 'Q1200', 'A2000', 'Q10X8', 'A29'])('%s is no pressure', (group) => {
    const report = body(`24012KT 9999 03/01 ${group}`);
    expect(report.pressure).toBeNull();
    expect(report.errors.every((e) => ['BAD_PRESSURE', 'MISSING_PRESSURE'].includes(e.code))).toBe(true);
    expect(report.errors).toHaveLength(1);
  });

  test('of two pressures the lower counts, and a disagreement is said', () => {
    const agree = body('24012KT 9999 03/01 Q1013 A2992');
    expect(agree.pressure!.qnh_hPa).toBeLessThanOrEqual(1013.21);
    expect(codes(agree.warnings)).toEqual([]);
    const disagree = body('24012KT 9999 03/01 Q1013 A2960');
    expect(disagree.pressure!.qnh_hPa).toBeCloseTo(1002.37, 1);
    expect(codes(disagree.warnings)).toEqual(['PRESSURE_DISAGREE']);
  });

  test('what is not there is missing, once', () => {
    expect(codes(parseReport('METAR QXVA 250830Z').errors)).toEqual([
      'MISSING_WIND',
      'MISSING_TEMP',
      'MISSING_PRESSURE',
    ]);
  });
});

describe('what is no report', () => {
  test.each([
    ['TAF QXVA 250800Z 2509/2518 24012KT', 'NOT_A_REPORT'],
    ['METAR XX 250830Z 24012KT', 'BAD_STATION'],
    ['METAR QXVA 320830Z 24012KT', 'BAD_TIME'],
    ['METAR QXVA 2508Z 24012KT', 'BAD_TIME'],
  ])('%s', (text, code) => {
    const report = parseReport(text);
    expect(report.status).toBe('error');
    expect(codes(report.errors)).toEqual([code]);
    expect(report.wind).toBeNull();
  });

  test('nothing is empty', () => {
    expect(attempt(() => parseReport(' \n '))).toEqual({ error: 'EMPTY', field: 'text' });
  });

  test('whatever is pasted, it is read or named and never thrown out', () => {
    const group = fc.oneof(
      fc.constantFrom('24012KT', 'VRB', '9999', 'CAVOK', '03/01', 'Q1008', 'A2992', '////', 'NIL', 'AUTO', 'R24/1200'),
      fc.string({ maxLength: 9 }),
      fc.stringMatching(/^[A-Z0-9/]{1,8}$/),
    );
    fc.assert(
      fc.property(fc.array(group, { maxLength: 12 }), (groups) => {
        const report = attempt(() => parseReport(`METAR QXVA 250830Z ${groups.join(' ')}`));
        if (isRefusal(report)) throw new Error('refused');
        const { wind, temp_C, dew_C, pressure } = report;
        expect(pressure?.qnh_hPa ?? 1013).toBeGreaterThanOrEqual(850);
        expect(dew_C ?? -Infinity).toBeLessThanOrEqual(temp_C ?? Infinity);
        expect(wind?.gust_kt ?? Infinity).toBeGreaterThan(wind?.speed_kt ?? 0);
        expect(report.status === 'ok').toBe(report.errors.length === 0 && report.status !== 'nil');
      }),
      { numRuns: 500 },
    );
  });
});

describe('when it was observed', () => {
  test.each([
    ['2026-11-25T08:34:00Z', 25, 8, 30, '2026-11-25T08:30:00Z', 'FRESH'],
    ['2026-12-01T00:10:00Z', 30, 23, 50, '2026-11-30T23:50:00Z', 'FRESH'],
    ['2026-11-25T10:34:00Z', 25, 8, 30, '2026-11-25T08:30:00Z', 'OLD'],
    ['2026-11-25T15:34:00Z', 25, 8, 30, '2026-11-25T08:30:00Z', 'STALE'],
    ['2026-11-25T08:00:00Z', 25, 8, 30, '2026-11-25T08:30:00Z', 'FUTURE'],
    ['2026-03-01T00:05:00Z', 28, 23, 55, '2026-02-28T23:55:00Z', 'FRESH'],
  ])('at %s the day %i %i:%i is %s, %s', (now, day, hour, minute, time, status) => {
    expect(reportTime({ day, hour, minute, now })).toMatchObject({ time, status });
  });

  test('the nearest of three months is meant, always within half a month', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 28 }), fc.integer({ min: 0, max: 27_000_000 }), (day, minutes) => {
        const now = new Date(Date.UTC(2026, 0, 1) + minutes * 1000).toISOString();
        const { age_min } = reportTime({ day, hour: 12, minute: 0, now });
        expect(Math.abs(age_min)).toBeLessThan(16 * 1440);
      }),
    );
  });
});

describe('the first group of a kind counts', () => {
  test.each([
    ['temperature', '24012KT 9999 12/08 14/09 Q1008', '14/09'],
    ['pressure', '24012KT 9999 12/08 Q1008 Q1010', 'Q1010'],
  ])('a second %s is an error, and changes nothing', (_, groups, token) => {
    const report = body(groups);
    expect(report.errors).toEqual([{ code: 'DUPLICATE_GROUP', token }]);
    expect(report).toMatchObject({ temp_C: 12, dew_C: 8, pressure: { qnh_hPa: 1008 } });
  });

  test('a second place and time ends the report', () => {
    const report = body('24012KT 9999 12/08 Q1008 QXVB 250900Z 09040KT 30/20 Q0990');
    expect(report).toMatchObject({ status: 'ok', temp_C: 12, wind: { dir_deg: 240 }, pressure: { qnh_hPa: 1008 } });
    expect(codes(report.warnings)).toContain('EXTRA_TEXT_AFTER_END');
  });

  test('a fraction that lost its unit is no temperature', () => {
    const report = body('24012KT 1/2 FG 12/08 Q1008');
    expect(report).toMatchObject({ status: 'ok', temp_C: 12 });
    expect(codes(report.warnings)).toContain('UNKNOWN_GROUP');
  });

  test.each(['99/10', 'M95/M99', '61/20'])('air of %s is refused', (group) => {
    const report = body(`24012KT 9999 ${group} Q1008`);
    expect(codes(report.errors)).toEqual(['BAD_TEMP']);
    expect(report).toMatchObject({ temp_C: null, dew_C: null });
  });
});
