import { describe, expect, test } from 'vitest';
import { parseReport, reportTime } from '@rouse/core/weather';
import { attempt } from '@rouse/core/quantity';

const body = (groups: string) => parseReport(`METAR QXVA 250830Z ${groups}`);
/** with every group that has to be there */
const good = (more: string) => body(`24012KT 03/01 Q1008 ${more}`);
const codes = (list: readonly { code: string }[]): string[] => list.map((n) => n.code);

test('a report is what it says and nothing else', () => {
  expect(parseReport('METAR QXVA 250830Z 24012G21KT 200V280 9999 -RA BKN022 03/M01 Q1008 NOSIG=')).toEqual({
    status: 'ok',
    type: 'METAR',
    station: 'QXVA',
    day: 25,
    hour: 8,
    minute: 30,
    auto: false,
    cor: false,
    nil: false,
    wind: {
      kind: 'steady',
      dir_deg: 240,
      from_deg: 200,
      to_deg: 280,
      speed_kt: 12,
      gust_kt: 21,
      at_least: false,
      unit: 'KT',
    },
    visibility: { m: 10_000, at_least: true, less_than: false, cavok: false, min_m: null, min_dir: null },
    temp_C: 3,
    dew_C: -1,
    pressure: { qnh_hPa: 1008, unit: 'hPa', raw: 'Q1008' },
    other: ['-RA', 'BKN022'],
    ignored: ['NOSIG'],
    errors: [],
    warnings: [],
  });
});

describe('its beginning', () => {
  test('a special report, one that was mended, one by a machine', () => {
    expect(parseReport('SPECI QXVA 250830Z 24012KT 03/01 Q1008')).toMatchObject({ type: 'SPECI', warnings: [] });
    expect(parseReport('QXVA 250830Z 24012KT 03/01 Q1008')).toMatchObject({
      type: 'METAR',
      warnings: [{ code: 'TYPE_ASSUMED', token: null }],
    });
    expect(parseReport('METAR COR QXVA 250830Z 24012KT 03/01 Q1008')).toMatchObject({ status: 'ok', cor: true });
    for (const word of ['COR', 'CCA']) expect(good(word)).toMatchObject({ status: 'ok', cor: true, warnings: [] });
    for (const word of ['XCCA', 'CCAB', 'CC1'])
      expect(good(word)).toMatchObject({ cor: false, warnings: [{ code: 'UNKNOWN_GROUP', token: word }] });
    expect(good('AUTO')).toMatchObject({ status: 'ok', auto: true, warnings: [] });
  });

  test('a report that was not made has no faults', () => {
    expect(body('NIL')).toMatchObject({ status: 'nil', nil: true, errors: [], warnings: [] });
  });

  test.each(['010000Z', '312359Z'])('%s is a time', (time) => {
    expect(parseReport(`METAR QXVA ${time} 24012KT 03/01 Q1008`).status).toBe('ok');
  });

  test.each(['000830Z', '320830Z', '252400Z', '250860Z', 'X250830Z', '250830ZX', '2508Z'])('%s is none', (time) => {
    expect(parseReport(`METAR QXVA ${time} 24012KT`)).toMatchObject({
      status: 'error',
      day: null,
      errors: [{ code: 'BAD_TIME', token: time }],
    });
  });

  test('one that breaks off says where', () => {
    expect(parseReport('METAR').errors).toEqual([{ code: 'BAD_STATION', token: null }]);
    expect(parseReport('METAR QXVA').errors).toEqual([{ code: 'BAD_TIME', token: null }]);
  });
});

describe('its end', () => {
  test('what follows it is left alone, and said', () => {
    expect(parseReport('METAR QXVA 250830Z 24012KT 03/01 Q1008= 30045KT').warnings).toEqual([
      { code: 'EXTRA_TEXT_AFTER_END', token: null },
    ]);
    expect(parseReport('METAR QXVA 250830Z 24012KT 03/01 Q1008 = \n ').warnings).toEqual([]);
    expect(good('QXVB 250900Z 09040KT').ignored).toEqual(['QXVB', '250900Z', '09040KT']);
    expect(good('TEMPO 30045G60KT').ignored).toEqual(['TEMPO', '30045G60KT']);
  });
});

describe('groups that are not the weather of a start', () => {
  test.each(['R24/1200', 'R09L/P2000FT', 'R24/////', 'R8812345', 'W15/S3', 'WM02/H12', 'W///S2', 'WS'])('%s is passed over', (group) => {
    expect(good(group)).toMatchObject({ status: 'ok', ignored: [group], other: [], warnings: [] });
  }); // oxfmt-ignore

  test.each(['WS ALL RWY', 'WS RWY24', 'WS R24L', 'WS R24'])('%s is one group', (group) => {
    expect(good(`${group} 4000`)).toMatchObject({
      ignored: group.split(' '),
      visibility: { m: 4000 },
      warnings: [],
    });
  });

  test.each(['WS XALL', 'WS ALLX', 'WS R2', 'WS R24X', 'R24 RWY24'])('%s is not', (group) => {
    expect(codes(good(group).warnings)).toContain('UNKNOWN_GROUP');
  });

  test.each(['FEW012', 'SCT025CB', 'BKN///', '///012', 'OVC003TCU', 'VV001', 'VV///', 'SKC', 'NSC', 'NCD', 'NSW', '-RA', '+TSRA', 'VCSH', 'REDZ', 'FZFG', 'BCFG', 'RASN', '//'])('%s is sky or weather, as written', (group) => {
    expect(good(group)).toMatchObject({ status: 'ok', other: [group], ignored: [], warnings: [] });
  }); // oxfmt-ignore

  test.each(['FEW12', 'XFEW012', 'FEW012X', 'RAX', 'XRA', 'XR24/1200', 'BLAH', '/', 'KTS1'])('%s is unknown', (group) => {
    expect(good(group)).toMatchObject({ status: 'ok', other: [], ignored: [], warnings: [{ code: 'UNKNOWN_GROUP', token: group }] });
  }); // oxfmt-ignore
});

describe('wind', () => {
  const wind = (groups: string) => body(`${groups} 03/01 Q1008`);

  test('the first that can be read counts', () => {
    expect(codes(wind('24020KMH 30045KT').errors)).toEqual(['UNSUPPORTED_UNIT', 'DUPLICATE_GROUP']);
    expect(codes(wind('37010KT 30045KT').errors)).toEqual(['BAD_WIND', 'DUPLICATE_GROUP']);
    expect(wind('/////KT 24012KT')).toMatchObject({ status: 'ok', wind: { kind: 'steady', dir_deg: 240 } });
    expect(wind('/////KT').errors).toEqual([{ code: 'MISSING_WIND', token: null }]);
  });

  test('a direction is to ten degrees', () => {
    expect(wind('24512KT').warnings).toEqual([{ code: 'DIRECTION_NOT_ROUNDED', token: '24512KT' }]);
    for (const group of ['24012KT', 'VRB03KT', '///12KT', '00000KT']) expect(wind(group).warnings).toEqual([]);
  });

  test.each([
    ['24012KT', 12, null, false],
    ['240P49KT', 49, null, true],
    ['24012G20KT', 12, 20, false],
    ['24049GP99KT', 49, 99, true],
    ['24012G//KT', 12, null, false],
  ])('%s', (group, speed_kt, gust_kt, at_least) => {
    expect(wind(group).wind).toMatchObject({ kind: 'steady', speed_kt, gust_kt, at_least });
  });

  test.each(['00000G20KT', 'VRB00KT', '36000KT', '00010KT', '36110KT', '24012G12KT', 'X24012KT'])(
    '%s makes no sense',
    (group) => expect(wind(group)).toMatchObject({ wind: null, errors: [{ code: 'BAD_WIND', token: group }] }),
  );

  test.each([
    ['18012KT 200V280', true],
    ['13012KT 090V110', true],
    ['28012KT 240V280', false],
    ['24012KT 240V280', false],
    ['01012KT 350V030', false],
  ])('%s: a mean outside of its range is said', (groups, outside) => {
    expect(codes(wind(groups).warnings)).toEqual(outside ? ['MEAN_OUTSIDE_RANGE'] : []);
  });

  test.each(['370V010', '010V370', '240V240'])('%s is no range', (range) => {
    expect(wind(`24012KT ${range}`)).toMatchObject({
      wind: { from_deg: null, to_deg: null },
      errors: [{ code: 'BAD_WIND_RANGE', token: range }],
    });
  });

  test('a range needs a wind, and north may be either end', () => {
    expect(codes(wind('240V280').errors)).toEqual(['BAD_WIND_RANGE', 'MISSING_WIND']);
    expect(wind('02012KT 360V090').wind).toMatchObject({ from_deg: 360, to_deg: 90 });
    expect(wind('34012KT 270V360').wind).toMatchObject({ from_deg: 270, to_deg: 360 });
    for (const other of ['X240V280', '240V2800'])
      expect(codes(wind(`24012KT ${other}`).warnings)).toEqual(['UNKNOWN_GROUP']);
  });
});

describe('visibility', () => {
  const nothing = { at_least: false, less_than: false, cavok: false, min_m: null, min_dir: null };
  test.each([
    ['CAVOK', { ...nothing, m: 10_000, at_least: true, cavok: true }],
    ['9999', { ...nothing, m: 10_000, at_least: true }],
    ['0000', { ...nothing, m: 50, less_than: true }],
    ['3000', { ...nothing, m: 3000 }],
    ['3000NDV', { ...nothing, m: 3000 }],
    ['4000 1500SW', { ...nothing, m: 4000, min_m: 1500, min_dir: 'SW' }],
    ['9999 1500N', { ...nothing, m: 10_000, at_least: true, min_m: 1500, min_dir: 'N' }],
    ['4000 ////', { ...nothing, m: 4000 }],
    ['P6SM', { ...nothing, m: 9656.064, at_least: true }],
    ['M1/4SM', { ...nothing, m: 402.336, less_than: true }],
    ['10SM', { ...nothing, m: 16_093.44, at_least: true }],
    ['9SM', { ...nothing, m: 14_484.096 }],
    ['100SM', { ...nothing, m: 160_934.4, at_least: true }],
    ['1/2SM', { ...nothing, m: 804.672 }],
    ['15/16SM', { ...nothing, m: 1508.76 }],
    ['1 1/2SM', { ...nothing, m: 2414.016 }],
    ['11 15/16SM', { ...nothing, m: 19_211.544, at_least: true }],
  ])('%s', (groups, expected) => {
    const { visibility, status } = good(groups);
    expect(status).toBe('ok');
    expect({ ...visibility, m: Math.round(visibility!.m * 1000) / 1000 }).toEqual(expected);
  });

  test('what is not there, or is said of one direction only, is named', () => {
    expect(good('////')).toMatchObject({ visibility: null, warnings: [{ code: 'VISIBILITY_MISSING', token: '////' }] });
    expect(good('1500SW')).toMatchObject({
      visibility: { m: 1500, min_m: null, min_dir: null },
      warnings: [{ code: 'VISIBILITY_DIRECTION_FIRST', token: '1500SW' }],
    });
    expect(codes(good('3000').warnings)).toEqual([]);
  });

  test.each(['X4000', '40000', '1000SM', '1/0SM', 'X1/2SM', '1/2SMX', '1/123SM', 'Q1/2SM', '15X', '10', '4000X', '9SM9'])('%s is none', (group) => {
    expect(good(group)).toMatchObject({ visibility: null });
  }); // oxfmt-ignore

  test.each([
    ['2 1/0SM', ['2', '1/0SM'], null],
    ['123 1/2SM', ['123'], 804.672],
    ['1 X1/2SM', ['1', 'X1/2SM'], null],
    ['1 1/2SMX', ['1', '1/2SMX'], null],
    ['X1 1/2SM', ['X1'], 804.672],
    ['1X 1/2SM', ['1X'], 804.672],
  ])('%s is not one figure', (groups, unknown, m) => {
    const report = good(groups);
    expect(report.warnings.map((w) => w.token)).toEqual(unknown);
    expect(report.visibility?.m ?? null).toBe(m);
  });
});

describe('temperature', () => {
  const air = (group: string) => body(`24012KT 9999 ${group} Q1008`);

  test.each([
    ['60/60', 60, 60],
    ['M90/M90', -90, -90],
    ['05/05', 5, 5],
    ['M00/M00', 0, 0],
    ['12/M01', 12, -1],
  ])('%s', (group, temp_C, dew_C) => {
    expect(air(group)).toMatchObject({ status: 'ok', temp_C, dew_C, errors: [] });
  });

  test.each(['003/01', '03/1', 'M3/M1', '3/M1', '/12', '12/008', '20/61', 'M91/M95'])('%s is refused', (group) => {
    expect(air(group)).toMatchObject({ temp_C: null, dew_C: null, errors: [{ code: 'BAD_TEMP', token: group }] });
  });

  test.each(['03/01X', 'X03/01', '5/3', '1/16', '/'])('%s is no temperature at all', (group) => {
    expect(air(group)).toMatchObject({ errors: [{ code: 'MISSING_TEMP', token: null }] });
    expect(codes(air(group).warnings)).toEqual(['UNKNOWN_GROUP']);
  });

  test('one that is not known is missing; its dew point alone is no temperature', () => {
    expect(air('///01')).toMatchObject({ temp_C: null, dew_C: 1, errors: [{ code: 'MISSING_TEMP' }] });
    expect(air('/////')).toMatchObject({ temp_C: null, dew_C: null, errors: [{ code: 'MISSING_TEMP' }] });
  });

  test('a second one changes nothing, whichever of the two is broken', () => {
    expect(codes(air('003/01 12/08').errors)).toEqual(['BAD_TEMP', 'DUPLICATE_GROUP']);
    expect(codes(air('003/01 003/01').errors)).toEqual(['BAD_TEMP', 'DUPLICATE_GROUP']);
    expect(air('12/08 003/01')).toMatchObject({ temp_C: 12, errors: [{ code: 'DUPLICATE_GROUP', token: '003/01' }] });
    expect(codes(air('///01 12/08').errors)).toEqual(['DUPLICATE_GROUP', 'MISSING_TEMP']);
    expect(codes(air('99/10 12/08').errors)).toEqual(['BAD_TEMP', 'DUPLICATE_GROUP']);
  });
});

describe('pressure', () => {
  const pressure = (groups: string) => body(`24012KT 03/01 ${groups}`);

  test('what can be is a pressure, to its ends', () => {
    expect(pressure('Q0850').pressure).toEqual({ qnh_hPa: 850, unit: 'hPa', raw: 'Q0850' });
    expect(pressure('Q1100').pressure).toEqual({ qnh_hPa: 1100, unit: 'hPa', raw: 'Q1100' });
    expect(pressure('A2992').pressure).toMatchObject({ unit: 'inHg', raw: 'A2992' });
  });

  test.each(['Q0849', 'Q1101', 'Q10081', 'Q/////', 'Q10X8'])('%s is broken', (group) => {
    expect(pressure(group).errors).toEqual([{ code: 'BAD_PRESSURE', token: group }]);
  });

  test.each(['Q////', 'A////'])('%s is missing', (group) => {
    const report = pressure(group);
    expect(report.warnings).toEqual([{ code: 'PRESSURE_MISSING', token: group }]);
    expect(codes(report.errors)).toEqual(['MISSING_PRESSURE']);
    expect(codes(pressure(`${group} ${group}`).errors)).toEqual(['DUPLICATE_GROUP', 'MISSING_PRESSURE']);
  });

  test('another word is none', () => {
    expect(pressure('XQ1008 Q1008')).toMatchObject({ status: 'ok', warnings: [{ token: 'XQ1008' }] });
    expect(pressure('X1Q//// Q1008')).toMatchObject({ status: 'ok', warnings: [{ token: 'X1Q////' }] });
  });
});

describe('how old it is', () => {
  const at = (now: string, day: number, hour: number, minute: number) => reportTime({ day, hour, minute, now });

  test.each([
    ['08:19', 'FUTURE'],
    ['08:20', 'FRESH'],
    ['09:40', 'FRESH'],
    ['09:41', 'OLD'],
    ['11:30', 'OLD'],
    ['11:31', 'STALE'],
  ])('of half past eight at %s: %s', (clock, status) => {
    expect(at(`2026-11-25T${clock}:00Z`, 25, 8, 30).status).toBe(status);
  });

  test('over the end of a month and of a year, both ways', () => {
    expect(at('2026-01-01T00:10:00Z', 31, 23, 50)).toMatchObject({ time: '2025-12-31T23:50:00Z', age_min: 20 });
    expect(at('2025-12-31T23:55:00Z', 1, 0, 0)).toMatchObject({ time: '2026-01-01T00:00:00Z', age_min: -5 });
    // April has no 31st, and the 31st of April is not the 1st of May
    expect(at('2026-05-01T00:05:00Z', 31, 0, 0).time).toBe('2026-05-31T00:00:00Z');
    expect(attempt(() => at('today', 1, 0, 0))).toEqual({ error: 'BAD_TIME', field: 'now' });
  });
});
