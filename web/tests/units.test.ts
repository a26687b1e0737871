import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { UNIT_CHOICES, USUAL_UNITS, type Units, type UnitKind } from '../src/app/unit-choices.ts';
import { figureIn, kindOf, readPlain, readTyped, sayFigure } from '../src/ui/figures.ts';

const OTHER: Units = { temperature: 'F', pressure: 'inHg', mass: 'lb', volume: 'usgal', height: 'm', wind: 'km/h' };
const value = (text: string, kind: UnitKind, units = USUAL_UNITS, density_kgL?: number): number | null => {
  const typed = readTyped(text, kind, units, density_kgL);
  if (!typed.ok) throw new Error(typed.words);
  return typed.value;
};
const words = (text: string, kind: UnitKind): string => {
  const typed = readTyped(text, kind, USUAL_UNITS);
  return typed.ok ? 'accepted' : typed.words;
};

describe('what is typed', () => {
  test.each<[string, UnitKind, number]>([
    ['12', 'temperature', 12],
    ['54 F', 'temperature', 12.2222],
    ['−5', 'temperature', -5],
    ['-5,5', 'temperature', -5.5],
    ['1013', 'pressure', 1013],
    ['Q1013', 'pressure', 1013],
    ['a2992', 'pressure', 1013.207],
    ['29.92 inHg', 'pressure', 1013.207],
    ['100 lbs', 'mass', 45.3592],
    ['15 km/h', 'wind', 8.0994],
    ['20 m', 'height', 65.6168],
  ])('%s', (text, kind, kept) => {
    expect(value(text, kind)).toBeCloseTo(kept, 3);
  });

  test('fuel comes by mass or by volume', () => {
    expect(value('100 L', 'mass', USUAL_UNITS, 0.8)).toBeCloseTo(80, 9);
    expect(value('20 gal', 'mass', USUAL_UNITS, 0.72)).toBeCloseTo(54.51, 2);
    expect(words('100 L', 'mass')).toMatch(/not a unit of it: kg or lb/);
  });

  test('nothing is null, and nonsense says what is wanted', () => {
    expect(value('  ', 'mass')).toBeNull();
    expect(words('1O13', 'pressure')).toMatch(/a number in hPa, or with its unit: hPa or inHg/);
    expect(words('12 parsec', 'height')).toMatch(/parsec is not a unit/);
    expect(words('12 kg', 'temperature')).toMatch(/°C or °F/);
    expect(readPlain('twelve', '°')).toMatchObject({ ok: false });
    expect(readPlain(' ', '°')).toEqual({ ok: true, value: null });
    expect(readPlain('3,5', '°')).toEqual({ ok: true, value: 3.5 });
  });

  test('in the unit of the person it is the same as with its name', () => {
    const signs: Record<string, string> = { F: 'F', inHg: 'inHg', lb: 'lb', m: 'm', 'km/h': 'km/h' };
    for (const kind of ['temperature', 'pressure', 'mass', 'height', 'wind'] as const)
      expect(value('40', kind, OTHER)).toBeCloseTo(value(`40 ${signs[OTHER[kind]]}`, kind)!, 9);
  });
});

describe('what is shown', () => {
  test('whole figures, with their sign and unit', () => {
    expect(sayFigure(1008, 'pressure', USUAL_UNITS)).toBe('1,008 hPa');
    expect(sayFigure(1013.25, 'pressure', OTHER)).toBe('29.92 inHg');
    expect(sayFigure(-5.2, 'temperature', USUAL_UNITS)).toBe('−5 °C');
    expect(sayFigure(100, 'mass', OTHER, 'floor')).toBe('220 lb');
    expect(sayFigure(100, 'mass', OTHER, 'ceil')).toBe('221 lb');
  });

  test('changing the unit twice shows the same figure, and keeps what is kept', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...(Object.keys(UNIT_CHOICES) as UnitKind[])),
        fc.integer({ min: 1, max: 900 }),
        (kind, kept) => {
          const before = figureIn(kept, kind, USUAL_UNITS);
          figureIn(kept, kind, OTHER);
          expect(figureIn(kept, kind, USUAL_UNITS)).toBe(before);
          expect(before).toBe(kept);
        },
      ),
    );
  });

  test('the unit of a type file has its kind, or none', () => {
    expect(kindOf('hPa')).toBe('pressure');
    expect(kindOf('kg')).toBe('mass');
    expect(kindOf('°C')).toBe('temperature');
    expect(kindOf('ft')).toBe('height');
    expect(kindOf('%')).toBeNull();
    expect(kindOf('')).toBeNull();
  });
});
