import { describe, expect, test } from 'vitest';
import { encodingOf, guessMapping, headerKey, headOf, unitToBegin, unsureOf, unitsFor } from '@rouse/core/replay';
import { skerry } from '../skerry.ts';

const head = (...lines: string[]) => headOf(lines.join('\n'), 'utf-8');

describe('the encoding', () => {
  test.each<[readonly number[], string]>([
    [[0xff, 0xfe, 0x41, 0], 'utf-16le'],
    [[0xfe, 0xff, 0, 0x41], 'utf-16be'],
    [[0xff, 0x41], 'windows-1252'],
    [[0xfe, 0x41], 'windows-1252'],
    [[], 'utf-8'],
    [[0x41, 0x7f], 'utf-8'],
    [[0xc2, 0xb0, 0x41], 'utf-8'],
    [[0xdf, 0xbf], 'utf-8'],
    [[0xc1, 0x80], 'windows-1252'],
    [[0x80], 'windows-1252'],
    [[0xe2, 0x82, 0xac, 0x41], 'utf-8'],
    [[0xe0, 0xa0, 0x80], 'utf-8'],
    [[0xe2, 0x82, 0x41], 'windows-1252'],
    [[0xf0, 0x9f, 0x9a, 0x81], 'utf-8'],
    [[0xf0, 0x9f, 0x9a], 'utf-8'],
    [[0xf5, 0x80, 0x80, 0x80], 'windows-1252'],
    [[0xb0, 0x43], 'windows-1252'],
  ])('of %j is %s', (bytes, encoding) => {
    expect(encodingOf(Uint8Array.from(bytes))).toBe(encoding);
  });
});

describe('what parts the fields', () => {
  test.each<[string, string[], string]>([
    ['commas', ['a,b,c', '1,2,3', '4,5,6'], ','],
    ['semicolons', ['a;b', '1;2'], ';'],
    ['tabs', ['a\tb', '1\t2'], '\t'],
    ['bars', ['a|b', '1|2'], '|'],
    ['blanks', ['t    Ng', '0.0  12.5', '1.0  13.5'], ' '],
    ['blanks between signed figures', ['t Ng', '0 -12', '1 +13'], ' '],
    ['commas, where words hold blanks', ['local time,engine one', '10:00:00 AM,12', '10:00:01 AM,13'], ','],
    ['semicolons, with a title that has none', ['a long title, with a comma', 't;Ng', '0;1', '1;2'], ';'],
    ['commas, where notes of some rows hold a semicolon', ['t,Ng;%,note', '0,1,a', '1,2,c;d'], ','],
    [
      'commas, below a long title of semicolons',
      [...Array.from({ length: 20 }, () => 'key;word'), 't,Ng', ...Array.from({ length: 14 }, (_, i) => `${i},1`)],
      ',',
    ],
    ['tabs, where one row is cut off', ['t\tNg\tTOT', '0\t1\t2', '1\t2\t3', '2\t3\t4', '3\t4'], '\t'],
  ])('%s', (_, lines, separator) => {
    expect(head(...lines).separator).toBe(separator);
  });

  test('a separator in quotes parts nothing, and a doubled quote is one', () => {
    expect(head('t,"a, b","say ""x"""', '0,1,2', '1,2,3').names).toEqual(['t', 'a, b', 'say "x"']);
    expect(head('t,a', '0,1').rows).toEqual([['0', '1']]);
  });

  test('a decimal comma is one where the fields are parted by something else and no figure has a point', () => {
    expect(head('t;Ng', '0;1,5', '1;2,5').decimal).toBe(',');
    expect(head('t;Ng', '0;-1,5', '1;2').decimal).toBe(',');
    expect(head('t;Ng', '0;1.5', '1;2.5').decimal).toBe('.');
    expect(head('t;Ng;TOT', '0;1,5;3.5', '1;2,5;4.5').decimal).toBe('.');
    expect(head('t,Ng', '0,1', '1,2').decimal).toBe('.');
    expect(head('t;Ng', '0;1', '1;2').decimal).toBe('.');
  });
});

describe('the rows before the figures', () => {
  test('are titles, names and units; of each the right one is taken', () => {
    const found = head('Recorder 7', 'of a day', 't;Ng;TOT', 's;%;degC', '0;1;20', '1;2;21');
    expect(found).toMatchObject({ headerRows: 4, names: ['t', 'Ng', 'TOT'], units: ['s', '%', 'degC'] });
    expect(found.rows).toEqual([['0', '1', '20'], ['1', '2', '21']]); // oxfmt-ignore
    // a row of figures that is no row of the table
    expect(head('1;2', 't;Ng;TOT', '0;1;2', '1;2;3').headerRows).toBe(2);
  });

  test('a column without a name has its number, a unit in brackets its word', () => {
    const found = head('t,,Ng (%),TOT [degC] ', '0,1,2,3', '1,2,3,4');
    expect(found.names).toEqual(['t', 'column 2', 'Ng (%)', 'TOT [degC]']);
    expect(found.units).toEqual(['', '', '%', 'degC']);
    expect(head('t,Ng [ % ],Ng (left) speed', '0,1,2', '1,2,3').units).toEqual(['', '%', '']);
    expect(head('t , Ng ', '   ', '0,1')).toMatchObject({ names: ['t', 'Ng'], rows: [['0', '1']] });
    expect(head('0,1', '1,2')).toMatchObject({ headerRows: 0, names: ['column 1', 'column 2'], units: ['', ''] });
  });

  test('words alone are a header, and nothing at all is no file with one', () => {
    expect(head('t,Ng')).toMatchObject({ headerRows: 1, rows: [] });
    expect(headOf('', 'utf-8')).toMatchObject({ headerRows: 0, names: [], rows: [] });
  });

  test('stars, dates, clocks and powers count as figures; a byte order mark is no letter', () => {
    expect(head('time,Ng', '2026-11-25T08:00:00Z,****', '10:00:00,1e-3').headerRows).toBe(1);
    expect(headOf('\uFEFFt,Ng\n0,1\n', 'utf-8').names[0]).toBe('t');
    expect(headOf('t,Ng\r\n0,1\r\n', 'utf-8').rows).toEqual([['0', '1']]);
  });

  test('comments are those that come again after rows; a title may begin with the same sign', () => {
    expect(head('t,Ng', '# begun', '0,1', '1,2')).toMatchObject({ comment: '#', rows: [['0', '1'], ['1', '2']] }); // oxfmt-ignore
    expect(head('t,Ng', '// begun', '0,1')).toMatchObject({ comment: '//' });
    expect(head('# t,Ng', '0,1', '1,2').comment).toBeUndefined();
    expect(Object.keys(head('t,Ng', '0,1'))).not.toContain('comment');
  });

  test('as many fields as most rows have, of two numbers the larger', () => {
    expect(head('t,Ng', '0,1', '1,2', '2,3,4').names).toEqual(['t', 'Ng']);
    expect(head('t,Ng', '0,1', '1,2,3', '2,3,4').names).toHaveLength(3);
    expect(head('t,Ng,TOT', '0,1,2', '1,2', '2,3').names).toEqual(['t', 'Ng', 'TOT']);
  });

  test('forty lines are looked at, however long the file', () => {
    expect(head('t,Ng', ...Array.from({ length: 100 }, (_, i) => `${i},1`)).rows).toHaveLength(39);
  });
});

describe('a first mapping', () => {
  const timeOf = (name: string, ...values: string[]) =>
    guessMapping(head(`${name};Ng`, ...values.map((v) => `${v};1`)), skerry.channels).time;

  test.each<[string, string[], string]>([
    ['time', ['0', '1', '2'], 'seconds'],
    ['time', ['0', '9', '18'], 'seconds'],
    ['time', ['0', '10', '20'], 'milliseconds'],
    ['time ms', ['0', '1', '2'], 'milliseconds'],
    ['t_ms', ['0', '1', '2'], 'unknown'],
    ['time_ms', ['0', '1', '2'], 'milliseconds'],
    ['elapsed millis', ['0', '1', '2'], 'milliseconds'],
    ['t_s', ['0', '100', '200'], 'seconds'],
    ['time sec', ['0', '100', '200'], 'seconds'],
    ['time', ['100000001', '100000101'], 'seconds'],
    ['time', ['100000000001', '100000000101'], 'milliseconds'],
    ['time', ['46351.25', '46351.2501'], 'days'],
    ['time', ['46351', '46352'], 'seconds'],
    ['time', ['46351.25', '46352.25'], 'seconds'],
    ['time', ['5', '6', '4'], 'unknown'],
    ['time', ['1', '1', '2'], 'seconds'],
    ['time', ['0', '1', '21', '22'], 'seconds'],
    ['time', ['10:00:00', 'x', 'y'], 'unknown'],
    ['time', ['15000.25', '15000.2501'], 'seconds'],
    ['time', ['90000.25', '90000.2501'], 'seconds'],
    ['time', ['5', '4', '3'], 'unknown'],
    ['time', ['10:00:00', '10:00:01'], 'clock'],
    ['time', ['10:00', '10:01'], 'clock'],
    ['time', ['10:00:00.5 pm', '10:00:01 p.m.'], 'clock'],
    ['utc', ['2026-11-25 08:00', '2026-11-25 08:01'], 'date-time'],
    ['timestamp', ['2026-11-25T08:00:00.250+01:00', 'x'], 'date-time'],
    ['time', ['soon', 'later'], 'unknown'],
    ['time', ['0.00E+00', '2.00e-02', '4.00E-02'], 'seconds'],
    ['time', ['0x10', '0x11'], 'unknown'],
    ['time', ['Infinity', 'Infinity'], 'unknown'],
    ['lever', ['0', '1', '2'], 'unknown'],
  ])('the time of %j with %j is in %s', (name, values, format) => {
    expect(timeOf(name, ...values).format).toBe(format);
  });

  test('the column that is called a time is taken, a clock before a count', () => {
    const mapped = (...lines: string[]) => guessMapping(head(...lines), skerry.channels).time;
    expect(mapped('Ng;t_s', '1;0', '2;1')).toMatchObject({ column: 1, format: 'seconds' });
    expect(mapped('seconds;clock;Ng', '0;10:00:00;1', '1;10:00:01;1')).toMatchObject({ column: 1, format: 'clock' });
    expect(mapped('t;Ng', '0;1', '1;2', 'the end', 'of', 'the day')).toMatchObject({ column: 0, format: 'seconds' });
    expect(mapped('a;b', '1;0', '2;1')).toMatchObject({ column: 0, format: 'unknown', rate_Hz: 10, start_s: 0 });
  });

  test('channels are known by id, letters of the panel or label, each once', () => {
    const of = (name: string) =>
      guessMapping(head(`t_s;${name}`, '0;1', '1;2'), skerry.channels).columns.map((c) => c.channel);
    for (const name of [
      'ng.1',
      'NG',
      'ng_pct',
      'Ng (%)',
      'tot 1',
      'tot.1',
      'TOT degC',
      'bus volts',
      'Bus volts V',
      'TOT deg C',
      'fuel flow kg/hr',
    ])
      expect(of(name), name).toHaveLength(1);
    expect(of('mystery')).toEqual([]);
    // turns a minute would be read as per cent
    expect([of('Ng rpm'), of('ng.1 rpm')]).toEqual([[], []]);
    expect(guessMapping(head('t_s;Ng;ng.1', '0;1;2', '1;2;3'), skerry.channels).columns).toMatchObject([{ column: 1, channel: 'ng.1' }]); // oxfmt-ignore
  });

  test.each<[string, string, string]>([
    ['TOT_F', '', '°F'],
    ['TOT deg F', '', '°F'],
    ['TOT K', '', 'K'],
    ['TOT', 'Celsius', '°C'],
    ['TOT', 'deg. C', '°C'],
    ['TOT', 'psi', ''],
    ['TOT', '', ''],
    ['Ng', '', '%'],
    ['Ng', 'fraction', 'fraction'],
    ['Ng', 'bar', '%'],
  ])('%s with %j is in %j', (name, unit, written) => {
    const found = guessMapping(head(`t_s;${name}`, `s;${unit}`, '0;1', '1;2'), skerry.channels);
    expect(found.columns.map((c) => c.unit)).toEqual([written]);
  });

  test('a unit is begun with where there is one alone, or figures are bare', () => {
    expect(['%', '', 'state', 'Nm', 'bar', '°C'].map((unit) => unitToBegin({ unit }))).toEqual(['%', '', 'state', 'Nm', '', '']); // oxfmt-ignore
  });

  test('what is still to be said is the time that nobody knows, and each unit that none of its channel is', () => {
    const mapping = guessMapping(head('t_s;Ng;TOT', '0;1;20', '1;2;21'), skerry.channels);
    expect(unsureOf(mapping, skerry.channels)).toEqual({ time: false, units: ['tot.1'] });
    const foreign = { column: 1, channel: 'ng.9', unit: '%', scale: 1 };
    expect(unsureOf({ ...mapping, time: { ...mapping.time, format: 'unknown' }, columns: [foreign] }, skerry.channels)).toEqual({ time: true, units: ['ng.9'] }); // oxfmt-ignore
  });

  test('files of one kind have one key, whatever the case of their names', () => {
    const key = (...lines: string[]) => headerKey(head(...lines));
    expect(key('T_S;NG', '0;1')).toBe(key('t_s;ng', '5;6'));
    expect(key('t_s;ng', '0;1')).not.toBe(key('t_s|ng', '0|1'));
    expect(key('t_s;ng', '0;1')).not.toBe(key('t_s;nf', '0;1'));
  });
});

test('a unit of a file becomes the channel’s by its table', () => {
  const inUnit = (of: string, id: string, figure: number): number => {
    const { scale, offset } = unitsFor(of).find((u) => u.id === id)!;
    return figure * scale + offset;
  };
  expect(inUnit('°C', '°F', 212)).toBeCloseTo(100, 9);
  expect(inUnit('°C', 'K', 273.15)).toBeCloseTo(0, 9);
  expect(inUnit('°C', '°C', 15)).toBe(15);
  expect(inUnit('bar', 'psi', 14.503774)).toBeCloseTo(1, 6);
  expect(inUnit('bar', 'kPa', 100)).toBeCloseTo(1, 9);
  expect(inUnit('bar', 'hPa', 1000)).toBeCloseTo(1, 9);
  expect(inUnit('inHg', 'hPa', 1013.25)).toBeCloseTo(29.92, 2);
  expect(inUnit('%', 'fraction', 0.62)).toBeCloseTo(62, 9);
  expect(inUnit('kg/h', 'lb/h', 100)).toBeCloseTo(45.36, 2);
  expect(inUnit('kg/h', 'g/s', 10)).toBeCloseTo(36, 9);
  expect(inUnit('V', 'mV', 24_100)).toBeCloseTo(24.1, 9);
  expect(inUnit('A', 'mA', 500)).toBeCloseTo(0.5, 9);
  expect(unitsFor('Nm')).toEqual([{ id: 'Nm', scale: 1, offset: 0 }]);
});
