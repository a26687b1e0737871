import { CLEAN_LINE } from '@rouse/core/contract';
import { NormalSource } from '@rouse/core/simulator';
import { describe, expect, test } from 'vitest';
import { BadLine } from '../../standin/src/bad-line.ts';
import { Unit } from '../../standin/src/unit.ts';
import { obeyAmong } from '../../standin/src/units.ts';
import { skerry, typeOfTail } from '../rouse.ts';

const LINES = 4000;

/** Sends numbered lines over a bad line. @returns what came out, and what is still on its way */
function carry(faults: Partial<BadLine['faults']>): { out: string[]; later: { act: () => void; ms: number }[] } {
  const out: string[] = [];
  const later: { act: () => void; ms: number }[] = [];
  const chance = new NormalSource(7);
  const line = new BadLine(
    (sent) => out.push(sent),
    () => chance.uniform(),
    (act, ms) => later.push({ act, ms }),
  );
  line.faults = { drop: 0, repeat: 0, corrupt: 0, delay_ms: 0, ...faults };
  for (let i = 0; i < LINES; i++) line.carry(`{"t":${i}}\n`);
  return { out, later };
}
const share = (n: number): number => n / LINES;

describe('a bad line', () => {
  test('that is clean carries every line as it is', () => {
    expect(carry({}).out).toEqual(Array.from({ length: LINES }, (_, i) => `{"t":${i}}\n`));
  });

  test('loses, doubles and garbles about as many as it was asked to', () => {
    expect(share(carry({ drop: 0.2 }).out.length)).toBeCloseTo(0.8, 1);
    expect(share(carry({ repeat: 0.2 }).out.length)).toBeCloseTo(1.2, 1);
    const garbled = carry({ corrupt: 0.2 }).out;
    expect(share(garbled.filter((l, i) => l !== `{"t":${i}}\n`).length)).toBeCloseTo(0.2, 1);
    expect(garbled.every((l) => l.endsWith('\n'))).toBe(true); // one bad line stays one line
  });

  test('is late by what it was asked to be, and loses nothing by it', () => {
    const { out, later } = carry({ delay_ms: 300 });
    expect(out).toEqual([]);
    expect(later).toHaveLength(LINES);
    expect(new Set(later.map((l) => l.ms))).toEqual(new Set([300]));
    for (const { act } of later) act();
    expect(out[17]).toBe('{"t":17}\n');
  });
});

describe('several units in one stand-in', () => {
  const used: string[] = [];
  const units = [skerry, typeOfTail('QV-ERN')].map(
    (type) => new Unit(type, { send: () => undefined, use: (transport) => used.push(`${type.id} ${transport}`) }),
  );

  test('a command goes to the unit that it names, else to the first; an unknown one is said', () => {
    expect(obeyAmong(units, { cmd: 'state' })).toMatchObject({ ok: true, type: 'S7', line: CLEAN_LINE });
    expect(obeyAmong(units, { cmd: 'reset', type: 'H9', preset: 'tired-battery' })).toMatchObject({
      type: 'H9',
      preset: 'tired-battery',
    });
    expect(obeyAmong(units, { cmd: 'state', type: 'T9' })).toMatchObject({ ok: false });
  });

  test('a line is changed piece by piece, and laid over the transport that it names', () => {
    obeyAmong(units, { cmd: 'line', type: 'H9', transport: 'udp', drop: 0.1 });
    expect(obeyAmong(units, { cmd: 'line', type: 'H9', format: 'nmea' })).toMatchObject({
      line: { ...CLEAN_LINE, transport: 'udp', drop: 0.1, format: 'nmea' },
    });
    expect(used).toEqual(['H9 udp', 'H9 udp']);
    expect(obeyAmong(units, { cmd: 'state' })).toMatchObject({ line: CLEAN_LINE });
  });
});
