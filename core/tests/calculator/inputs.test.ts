import { describe, expect, test } from 'vitest';
import { calculate, CALCULATOR_NAMES } from '@rouse/core/calculator';
import cases from '../../../vectors/calculators.json' with { type: 'json' };
import { references } from '../reference.ts';

interface Vector {
  fn: string;
  input: Record<string, unknown>;
  expected: unknown;
}

const vectors = Object.values(cases.groups as unknown as Record<string, Vector[]>).flat();
const good = vectors.filter(
  ({ expected }) => !(typeof expected === 'object' && expected !== null && 'error' in expected),
);
/** one case of each calculator is enough to ask how it takes what is no input */
const one = CALCULATOR_NAMES.map((name) => [name, good.find((v) => v.fn === name)!.input] as const);

const run = (fn: string, input: Record<string, unknown>): unknown => calculate(fn, input, references);
const errorOf = (result: unknown): string | null =>
  typeof result === 'object' && result !== null && 'error' in result ? String(result.error) : null;

describe('every calculator', () => {
  test.each(one)('%s refuses a key that it does not know', (fn, input) => {
    expect(run(fn, { ...input, zzz: 1 })).toEqual({ error: 'BAD_OPTION', field: 'zzz' });
  });

  test.each(one)('%s refuses a figure that is a word, an answer, a list or no number', (fn, input) => {
    const figures = Object.keys(input).filter((key) => typeof input[key] === 'number');
    for (const key of figures)
      for (const bad of ['12', true, [12], NaN, Infinity])
        expect(errorOf(run(fn, { ...input, [key]: bad })), `${key} ${String(bad)}`).not.toBeNull();
  });

  test.each(one)('%s says what is missing where a list is', (fn, input) => {
    for (const key of Object.keys(input).filter((k) => Array.isArray(input[k]))) {
      const { [key]: _, ...rest } = input;
      for (const without of [rest, { ...input, [key]: null }]) {
        const error = errorOf(run(fn, without));
        if (OPTIONAL_LISTS.has(`${fn}.${key}`)) continue;
        expect(error, key).toBe('MISSING');
      }
      for (const bad of ['text', 7, true, {}]) expect(errorOf(run(fn, { ...input, [key]: bad })), key).not.toBeNull();
    }
  });
});

const OPTIONAL_LISTS = new Set(['elec_scan.events', 'cpm.crew_order', 'cpm_monte_carlo.crew_order']);

describe('no answer never looks like all clear', () => {
  test.each([
    ['cpm', { steps: [] }, 'INSUFFICIENT_DATA'],
    ['lognormal_remaining', { mu: 3, sigma: 0.4, elapsed_s: 5, p: [] }, 'INSUFFICIENT_DATA'],
    ['elec_scan', { t0: 0, dt: 0.1, amps: Array.from({ length: 40 }, () => 4) }, 'INSUFFICIENT_DATA'],
    ['elec_scan', { t0: 0, dt: 1, amps: Array.from({ length: 400 }, () => 4) }, 'INSUFFICIENT_DATA'],
    [
      'limit_monitor',
      {
        samples: [
          [0, 1],
          [1, 2],
        ],
      },
      'MISSING',
    ],
    ['battery_resistance_series', { i_A: [10, 200, 400], v_V: [20, 21, 22] }, 'NO_SOLUTION'],
  ])('%s of %j is %s', (fn, input, error) => {
    expect(errorOf(run(fn, input))).toBe(error);
  });

  test('a wind that is not there may come from every side', () => {
    expect(run('wind_side', { wind: null, heading_deg: 90, heading_ref: 'true' })).toMatchObject({
      primary: 'UNKNOWN',
      sides: ['HEAD', 'RIGHT', 'TAIL', 'LEFT'],
      determinate: false,
    });
  });

  test('a mean outside its own range counts from every side, in the quadrants too', () => {
    const { wind } = run('parse_metar', { text: 'METAR QAAA 010000Z 27018KT 010V060 9999 15/10 Q1013' }) as {
      wind: unknown;
    };
    const at = { wind, heading_deg: 270, heading_ref: 'true' };
    expect(run('wind_side', at)).toMatchObject({ determinate: false, reason: 'BOTH_SIDES' });
    expect(run('rotor_wind_limit', { ...at, aircraft: 'REF1', phase: 'start' })).toMatchObject({
      quadrants: ['HEAD', 'RIGHT', 'TAIL', 'LEFT'],
    });
  });

  test('a hover check in too much wind carries no band and no departure', () => {
    const [, input] = one.find(([name]) => name === 'hover_check')!;
    expect(run('hover_check', { ...input, headwind_kt: 16 })).toEqual({
      status: 'INVALID',
      reasons: ['HEADWIND_TOO_STRONG'],
    });
  });

  test('an event outside the trace has no window; the others are answered', () => {
    const [, input] = one.find(([name]) => name === 'elec_steps')!;
    const events = [...(input['events'] as object[]), { t: 1e6, load: 'nobody', action: 'on' }];
    const before = (run('elec_steps', input) as { steps: object[] }).steps;
    const { steps } = run('elec_steps', { ...input, events }) as { steps: object[] };
    expect(steps.slice(0, before.length)).toEqual(before);
    expect(steps.at(-1)).toMatchObject({ loads: ['nobody'], verdict: 'NO_WINDOW' });
  });
});

describe('options that are documented are used', () => {
  test('the lowest volts of the crank decide the margin and the verdict', () => {
    const [, input] = one.find(([name]) => name === 'battery_resistance')!;
    const usual = run('battery_resistance', input) as { vmin_margin_V: number; vmin_ref_V: number };
    const lower = run('battery_resistance', { ...input, v_min: (input['v_crank'] as number) - 1 }) as typeof usual;
    expect(usual.vmin_margin_V - lower.vmin_margin_V).toBeCloseTo(1, 9);
    expect(usual.vmin_ref_V - lower.vmin_ref_V).toBeCloseTo(1, 9);
    expect(run('battery_resistance', { ...input, v_min: 1 })).toMatchObject({ verdict: 'REPLACE' });
  });

  test('a margin that is asked for takes the rating away that has not got it', () => {
    const holds = good.find(({ fn, expected }) => fn === 'oei_required_rating' && (expected as { rating: string }).rating === 'OEI_CONT')!; // oxfmt-ignore
    const ratingWith = (margin_frac: number): unknown => run('oei_required_rating', { ...holds.input, margin_frac });
    expect(ratingWith(0.02)).toMatchObject({ rating: 'OEI_CONT' });
    expect(ratingWith(0.5)).not.toMatchObject({ rating: 'OEI_CONT' });
  });

  test('a stated density must fit what the tanks hold', () => {
    const fuel = { aircraft: 'REF1', fuel_L: 200, ground: [] };
    expect(errorOf(run('fuel_plan', { ...fuel, density_kgL: 0.72 }))).toBe('OUT_OF_RANGE');
    expect(errorOf(run('fuel_plan', { ...fuel, density_kgL: 0.8 }))).toBeNull();
  });

  test('a prior alone is believed as it is', () => {
    expect(run('lognormal_fit', { durations_s: [], prior: { median_s: 60, sigma: 0.4, n: 3 } })).toMatchObject({
      sigma_within: 0.4,
    });
  });
});
