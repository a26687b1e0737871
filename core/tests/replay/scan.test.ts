import { describe, expect, test } from 'vitest';
import { type CsvMapping, encodingOf, headOf, isSheet, Scan, type Scanned, sheetAsCsv } from '@rouse/core/replay';
import { skerry } from '../skerry.ts';

const NAMES = ['t_s', 'Ng', 'TOT', 'Starter'];
const mapping: CsvMapping = {
  separator: ',',
  decimal: '.',
  headerRows: 1,
  time: { format: 'seconds', column: 0, rate_Hz: 10, start_s: 0 },
  columns: [
    { column: 1, channel: 'ng.1', unit: '%', scale: 1 },
    { column: 2, channel: 'tot.1', unit: '°C', scale: 1 },
    { column: 3, channel: 'starter.1.amps', unit: 'A', scale: 1 },
  ],
};
/** A file of rows six seconds apart. */
function scanned(rows: readonly (readonly [ng: number | '', tot: number | '', amps: number])[]): Scanned {
  const scan = new Scan(skerry, mapping, NAMES);
  const text = rows.map(([ng, tot, amps], i) => `${6 * i},${ng},${tot},${amps}`).join('\n');
  scan.reader.push(new TextEncoder().encode(`${NAMES.join(',')}\n${text}\n`));
  return scan.finish();
}
const still = (rows: number): [number | '', number | '', number][] => Array.from({ length: rows }, () => [0, 20, 0]);

describe('places of a file to begin at again', () => {
  test('are kept every five seconds, and told apart by whether an engine was at rest', () => {
    const { places } = scanned([...still(4), [5, 20, 400], [9, 20, 400]]);
    expect(places.map((p) => [p.t_s, p.quiet])).toEqual([[0, true], [6, true], [12, true], [18, true], [24, false], [30, false]]); // oxfmt-ignore
  });

  test('of a long file become fewer and further apart, but the last rest before a start stays', () => {
    const rows = still(2600);
    for (let i = 1002; i < 1010; i++) rows[i] = [5, 20, 400];
    const { places, end_s } = scanned(rows);
    expect(end_s).toBe(6 * 2599);
    expect(places).toHaveLength(1301);
    const kept = new Set(places.map((p) => p.t_s / 6));
    expect([kept.has(998), kept.has(999), kept.has(1000), kept.has(1001), kept.has(1003)]).toEqual([true, false, true, true, false]); // oxfmt-ignore
    // in the order of the file, and as far apart at its end as at its beginning
    const apart = places.slice(1).map((p, i) => p.t_s - places[i]!.t_s);
    expect(apart.filter((s) => s !== 12)).toEqual([6, 6]);
  });
});

describe('the overview of a file', () => {
  test('has the highest speed and temperature of every second', () => {
    const { overview } = scanned([[10, 300, 0], [12, '', 0], ['', 310, 0]]); // oxfmt-ignore
    expect(overview.t_s).toHaveLength(13);
    expect([overview.speed[0], overview.speed[6], overview.speed[12], overview.speed[1]]).toEqual([10, 12, null, null]);
    expect([overview.second[0], overview.second[6], overview.second[12]]).toEqual([300, null, 310]);
  });

  test('of a long file has longer steps, and loses no peak', () => {
    const rows = still(2600);
    rows[501] = [61, 700, 0];
    rows[2400] = [55, 650, 0];
    const { overview } = scanned(rows);
    const step_s = overview.t_s[1]!;
    expect(step_s).toBe(8);
    expect(overview.t_s).toHaveLength(Math.floor((6 * 2599) / step_s) + 1);
    expect(overview.speed.indexOf(61)).toBe(Math.floor((6 * 501) / step_s));
    expect(overview.second.indexOf(700)).toBe(Math.floor((6 * 501) / step_s));
    expect(overview.speed.indexOf(55)).toBe(Math.floor((6 * 2400) / step_s));
    expect(overview.speed.filter((v) => v !== 0)).toEqual([61, 55]);
  });
});

test('a sheet is told by its first four bytes, and one that is too large is not unpacked', async () => {
  expect(isSheet(Uint8Array.of(0x50, 0x4b, 0x03, 0x04, 9))).toBe(true);
  expect(isSheet(Uint8Array.of(0x50, 0x4b, 0x05, 0x06))).toBe(false);
  expect(isSheet(Uint8Array.of(0x50, 0x4b))).toBe(false);
  await expect(sheetAsCsv(new ArrayBuffer(100 * 1024 * 1024 + 1))).rejects.toThrow(/more than 100 MB/);
});

describe('the beginning of a file', () => {
  test('is in the code that its mark says, by both bytes of it', () => {
    expect([[0xff, 0xfe], [0xfe, 0xff], [0xff, 0x41], [0xfe, 0x41], [0x41, 0xfe]].map((b) => encodingOf(Uint8Array.from(b)))).toEqual(['utf-16le', 'utf-16be', 'windows-1252', 'windows-1252', 'windows-1252']); // oxfmt-ignore
  });
  test('is cut by what cuts every row alike, before a comma that figures have too', () => {
    expect(headOf('t;Ng\n0,1;10,5\n0,2;10,6\n', 'utf-8')).toMatchObject({ separator: ';', decimal: ',' });
    expect(headOf('t,Ng\n0,1;1\n1,10\n2,11\n', 'utf-8')).toMatchObject({ separator: ',', decimal: '.' });
    expect(headOf('t,Ng\n0,10\n1,11\n', 'utf-8').names).toEqual(['t', 'Ng']);
  });
});
