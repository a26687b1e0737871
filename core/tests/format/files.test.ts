import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { DeviceLineReader, readCsv, verifyBundle, writeBundle, writeCsv, writeDeviceLine } from '@rouse/core/format';
import { channelIndex, flyPreset, RUN_ID, skerry } from '../skerry.ts';

const flown = flyPreset('no-light');
describe('run bundle', () => {
  const text = writeBundle(
    { id: RUN_ID, tail: 'QV-SKY', pilot: 'M. Aske', openedAt: '2026-11-25T08:00:00.000Z' },
    skerry,
    flown.entries,
    flown.trace,
  );

  test('verifies as it was written, with or without a line end', () => {
    expect(verifyBundle(text)).toMatchObject({
      ok: true,
      entries: flown.entries.length,
      frames: flown.trace.t_s.length,
      outcome: 'aborted',
    });
    expect(verifyBundle(`${text}\n`).ok).toBe(true);
  });

  test('any one changed character is refused', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: text.length - 1 }),
        fc.constantFrom('0', '7', 'x', ' ', '"', '}'),
        (at, letter) => {
          fc.pre(text[at] !== letter);
          expect(verifyBundle(text.slice(0, at) + letter + text.slice(at + 1)).ok).toBe(false);
        },
      ),
      { numRuns: 40 },
    );
  });

  test('a re-sealed lie is still found in the chain', async () => {
    const { canonicalJson, digestOf } = await import('@rouse/core/procedure');
    const { digest: _, ...body } = JSON.parse(text) as { digest: string; journal: { t: number }[] };
    body.journal[3]!.t += 1;
    expect(verifyBundle(canonicalJson({ ...body, digest: digestOf(canonicalJson(body)) }))).toMatchObject({
      ok: false,
      code: 'chain',
    });
  });
});

describe('CSV', () => {
  test('a trace goes out and comes back', () => {
    const back = readCsv(writeCsv(flown.trace, skerry.channels), skerry.channels);
    expect(back.ok).toBe(true);
    if (!back.ok) return;
    expect(back.trace.t_s).toEqual(flown.trace.t_s);
    expect(back.trace.columns[channelIndex('tot.1')]).toEqual(flown.trace.columns[channelIndex('tot.1')]);
  });

  test.each([
    ['time,ng.1_pct\n0,1', 1, 'time'],
    ['t_s,egt\n0,1', 1, 'egt'],
    ['t_s,ng.1_pct\n0,1\n1', 3, ''],
    ['t_s,ng.1_pct\n0,1\n0,2', 3, 't_s'],
    ['t_s,ng.1_pct\n0,fast', 2, 'ng.1_pct'],
  ])('%j is refused with its row and column', (text, row, column) => {
    expect(readCsv(text, skerry.channels)).toMatchObject({ ok: false, row, column });
  });

  test('an empty field is an invalid sample, never zero', () => {
    const back = readCsv('t_s,ng.1_pct,nr_pct\n0,,5\n', skerry.channels);
    expect(back.ok && back.trace.columns[channelIndex('ng.1')]![0]).toBeNaN();
    expect(back.ok && back.trace.columns[channelIndex('nr')]![0]).toBe(5);
  });
});

describe('device lines', () => {
  test('a written line is read to the step of each channel, null for what is lost', () => {
    const values = Float64Array.from(skerry.channels, (c, i) =>
      i === 3 ? NaN : c.range[0] + 0.377 * (c.range[1] - c.range[0]),
    );
    const reader = new DeviceLineReader(skerry.channels);
    expect(reader.read(writeDeviceLine(12.345, values, skerry.channels))).toBeNull();
    expect(reader.t_s).toBe(12.345);
    skerry.channels.forEach((c, i) => {
      const off = Math.abs(reader.values[i]! - values[i]!);
      expect(i === 3 ? Number.isNaN(reader.values[i]) : off <= c.resolution / 2 + 1e-9).toBe(true);
    });
  });

  test('a figure that no gauge shows is unknown, one a little past its scale is not', () => {
    const reader = new DeviceLineReader(skerry.channels);
    const i = skerry.channels.findIndex((c) => c.id === 'tot.1');
    const [, top] = skerry.channels[i]!.range;
    const read = (value: number): number => {
      expect(reader.read(`{"t":1,"tot.1":${value}}`)).toBeNull();
      return reader.values[i]!;
    };
    expect(read(top + 20)).toBe(top + 20);
    for (const wild of [top * 1.5, -999, 1e308, -40_000]) expect(read(wild), String(wild)).toBeNaN();
  });

  test.each([
    ['{"t":1', 'not-json'],
    ['[1,2]', 'not-an-object'],
    ['{"ng.1":5}', 'no-time'],
    ['{"t":"now"}', 'no-time'],
    ['{"t":1,"ng.1":"fast"}', 'bad-value'],
  ])('%s changes nothing', (line, fault) => {
    const reader = new DeviceLineReader(skerry.channels);
    reader.read('{"t":9,"ng.1":50}');
    expect(reader.read(line)).toBe(fault);
    expect(reader.t_s).toBe(9);
    expect(reader.values[channelIndex('ng.1')]).toBe(50);
  });
});
