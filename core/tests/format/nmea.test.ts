import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { believable } from '@rouse/core/aircraft';
import { checksumOf, DeviceReader, LineQuality, NmeaReader, writeDeviceLine, writeNmeaFrame } from '@rouse/core/format';
import { fleet, typeOf } from '../fleet.ts';
import { skerry } from '../skerry.ts';

const sentence = (body: string): string => `$${body}*${checksumOf(body)}`;
const ids = (id: string): number => skerry.channels.findIndex((c) => c.id === id);

describe('NMEA 0183', () => {
  test('the checksum of a sentence that everybody can recompute', () => {
    expect(checksumOf('GPGLL,5057.970,N,00146.110,E,142451,A')).toBe('27');
  });

  test.each(fleet.map((t) => t.id))(
    'a frame of %s goes over the line and comes back; unknown stays unknown, and what no gauge shows is',
    (id) => {
      const type = typeOf(id);
      const reader = new NmeaReader(type.channels, type.transducers);
      fc.assert(
        fc.property(
          fc.array(fc.option(fc.integer({ min: -400, max: 9000 }), { nil: null }), {
            minLength: type.channels.length,
            maxLength: type.channels.length,
          }),
          (tenths) => {
            const values = tenths.map((v) => (v === null ? NaN : v / 10));
            const text = writeNmeaFrame(12.34, values, type.channels, type.transducers);
            const lines = text.split('\r\n').filter(Boolean);
            expect(lines.every((l) => l.length <= 80)).toBe(true);
            const verdicts = lines.map((l) => reader.read(l, 0));
            expect(verdicts.slice(0, -1).every((v) => v === 'part')).toBe(true);
            expect(verdicts.at(-1)).toBe('frame');
            expect(reader.t_s).toBe(12.34);
            const carried = [...reader.values].map((v) => (Number.isNaN(v) ? null : Math.round(v * 1000) / 1000));
            const said = values.map((v, i) => {
              const [least, most] = believable(type.channels[i]!);
              return Number.isNaN(v) || v < least || v > most ? null : v;
            });
            expect(carried).toEqual(said);
          },
        ),
        { numRuns: 20 },
      );
    },
  );

  test('a sentence with a wrong checksum changes nothing: its readings are unknown in that frame, not the old ones', () => {
    const reader = new NmeaReader(skerry.channels, skerry.transducers);
    const values = skerry.channels.map((_, i) => i + 1);
    const lines = writeNmeaFrame(1, values, skerry.channels, skerry.transducers).split('\r\n').filter(Boolean);
    const unknown = (): number => [...reader.values].filter(Number.isNaN).length;
    for (const line of lines) reader.read(line, 0);
    const whole = unknown();
    const spoiled = lines.map((line, i) => (i === 0 ? line.replace(/,\d/, ',9') : line));
    expect(spoiled.map((line) => reader.read(line, 0))[0]).toBe('bad-checksum');
    expect(unknown()).toBeGreaterThan(whole);
  });

  test('what is no sentence of ours is named', () => {
    const reader = new NmeaReader(skerry.channels, skerry.transducers);
    expect(reader.read('$IIXDR,C,1,C,TOT_1', 0)).toBe('no-checksum');
    expect(reader.read(sentence('GPGLL,5057.970,N'), 0)).toBe('unknown-sentence');
    expect(reader.read(sentence('IIXDR,C,warm,C,TOT_1'), 0)).toBe('bad-value');
    expect(reader.read(sentence('IIXDR,C,500,C,SOMETHING_ELSE'), 0)).toBe('part');
  });

  test('a unit without a clock: a frame is whole when a name comes again or the next burst begins', () => {
    const reader = new NmeaReader(skerry.channels, skerry.transducers);
    const tot = sentence('IIXDR,C,500,C,TOT_1');
    const ng = sentence('IIXDR,T,30,,NG_1');
    expect(reader.read(tot, 10)).toBe('part');
    expect(reader.read(ng, 10.01)).toBe('part');
    expect(reader.read(tot, 10.05)).toBe('frame');
    expect(reader.values[ids('tot.1')]).toBe(500);
    expect(reader.values[ids('ng.1')]).toBe(30);
    expect(reader.read(ng, 11)).toBe('frame');
    expect(reader.values[ids('ng.1')]).toBeNaN();
  });

  test('one reader takes both formats, and a garbled line never becomes a reading', () => {
    const reader = new DeviceReader(skerry);
    expect(reader.read(writeDeviceLine(1, new Float64Array(skerry.channels.length), skerry.channels), 0)).toBe('frame');
    expect(reader.format).toBe('json');
    fc.assert(
      fc.property(fc.string(), (text) => {
        const before = [...reader.values];
        const found = reader.read(text, 0);
        expect(found).not.toBe('frame');
        expect([...reader.values]).toEqual(before);
      }),
    );
  });
});

test('the quality of a line: rate, bad share and gap over ten seconds, nothing after ten of silence', () => {
  const quality = new LineQuality();
  expect(quality.over(0)).toBeNull();
  for (let k = 0; k < 500; k++) {
    const t_s = k / 50;
    quality.line(t_s, k % 50 !== 0);
    if (k % 50 !== 0 && !(k > 200 && k < 260)) quality.frame(t_s);
  }
  const { rate_Hz, bad_share, gap_s } = quality.over(9.99)!;
  expect(bad_share).toBeCloseTo(0.02, 6);
  expect(rate_Hz).toBeGreaterThan(42);
  expect(gap_s).toBeCloseTo(1.22, 1);
  expect(quality.over(30)).toBeNull();
});

describe('units and names on the line', () => {
  const named = (channel: string): string => skerry.transducers.find((t) => t.channel === channel)!.name;
  const scaleOf = (channel: string): number => skerry.transducers.find((t) => t.channel === channel)!.scale;

  test.each<[string, string, number, string, number]>([
    ['Celsius', 'tot.1', 612, 'C', 612],
    ['Kelvin', 'tot.1', 885.15, 'K', 612],
    ['Fahrenheit', 'tot.1', 1133.6, 'F', 612],
    ['bar', 'oil.1.pressure', 4.2, 'B', 4.2],
    ['Pascal', 'oil.1.pressure', 420_000, 'P', 4.2],
  ])('a figure in %s comes out in the unit of its channel', (_, channel, figure, letter, expected) => {
    const reader = new NmeaReader(skerry.channels, skerry.transducers);
    expect(reader.read(sentence(`IIXDR,G,${figure},${letter},${named(channel)},G,1,S,UNIT_CLOCK`), 0)).toBe('frame');
    expect(reader.values[ids(channel)]).toBeCloseTo(expected * scaleOf(channel), 6);
  });

  test('a unit that the channel cannot be in is refused, and its figure is not believed', () => {
    const reader = new NmeaReader(skerry.channels, skerry.transducers);
    expect(reader.read(sentence(`IIXDR,C,612,B,${named('tot.1')},G,1,S,UNIT_CLOCK`), 0)).toBe('bad-unit');
    reader.read(sentence('IIXDR,G,2,S,UNIT_CLOCK'), 0);
    expect(reader.values[ids('tot.1')]).toBeNaN();
  });

  test('names that nobody knows are told, in either format', () => {
    const nmea = new DeviceReader(skerry);
    nmea.read(sentence(`IIXDR,C,20,C,CABIN_AIR,C,612,C,${named('tot.1')},G,1,S,UNIT_CLOCK`), 0);
    expect(nmea.unknown).toEqual(['CABIN_AIR']);
    const json = new DeviceReader(skerry);
    json.read('{"t":1,"tot.1":612,"cabin.air":20}', 0);
    expect(json.unknown).toEqual(['cabin.air']);
  });
});
