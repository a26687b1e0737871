import { describe, expect, test } from 'vitest';
import { shippedType } from '@rouse/aircraft';
import type { TypeFile } from '@rouse/core/aircraft';
import type { OneEngineBoard } from '@rouse/core/power';
import { boardOf, heldByTemperature, TEMPERATURES_C, type WhatIf } from '../src/features/power/board-figures.ts';
import { agreementOf, failureGrid } from '../src/features/power/failure-grid.ts';

const typeOf = (name: string): TypeFile => shippedType(process.cwd(), name)!;
const haugh = typeOf('haugh-h9');
const calm: WhatIf = { mass_kg: 2500, height_ft: 30, wind_kt: 0, oat_C: 15, pa_ft: 100, margin_C: 24, obstacleClear: true, landingOk: true }; // oxfmt-ignore
const board = (change: Partial<WhatIf> = {}): OneEngineBoard => {
  const found = boardOf(haugh, { ...calm, ...change });
  if ('refused' in found) throw new Error(found.refused);
  return found;
};
const ORDER = ['OEI_CONT', 'OEI_2MIN', 'OEI_30S', 'NONE'];

describe('the board of a what-if', () => {
  test('heavier, hotter or higher is never held by a gentler rating, and a person on the hoist weighs', () => {
    const rank = (change: Partial<WhatIf>): number[] => board(change).lines.map((l) => ORDER.indexOf(l.holds));
    for (const worse of [{ mass_kg: 2900 }, { oat_C: 40 }, { pa_ft: 6000 }, { oat_C: 35, margin_C: -10 }]) {
      const [usual, then] = [rank({}), rank(worse)];
      then.forEach((r, i) => expect(r, JSON.stringify(worse)).toBeGreaterThanOrEqual(usual[i]!));
      expect(then).not.toEqual(usual);
    }
    const { lines } = board();
    const [high, hoist] = ['high', 'hoist'].map((id) => lines.find((l) => l.id === id)!);
    expect(hoist!.mass_kg - high!.mass_kg).toBe(haugh.ratings!.oneEngine!.hoist_kg);
    expect(hoist!.needed_pct).toBeGreaterThan(high!.needed_pct);
  });

  test('what it says to shed is enough for the gentler rating, and five steps less of it is not', () => {
    const line = (mass_kg: number) => board({ mass_kg, oat_C: 30 }).lines.find((l) => l.id === 'high')!;
    const { holds, better } = line(2800);
    expect(better).not.toBeNull();
    const rank = (mass_kg: number): number => ORDER.indexOf(line(mass_kg).holds);
    expect(rank(2800 - better!.shed_kg)).toBe(ORDER.indexOf(better!.rating));
    expect(rank(2800 - better!.shed_kg)).toBeLessThan(ORDER.indexOf(holds));
    expect(rank(2800 - better!.shed_kg + 50)).toBeGreaterThan(ORDER.indexOf(better!.rating));
  });

  test('outside the model no figure is given, and why is said', () => {
    expect(boardOf(haugh, { ...calm, oat_C: 80 })).toEqual({ refused: expect.stringMatching(/oat_C.*no figure/) });
    expect(boardOf(typeOf('tarn-t2'), calm)).toEqual({ refused: 'what a hover takes is not written in this type' });
  });

  test('the weights of the map fall with heat and height, and the harder the rating the more it holds', () => {
    const [continuous, twoMinutes, thirty] = heldByTemperature(haugh, { pa_ft: 100, margin_C: 24 }).ratings;
    const higher = heldByTemperature(haugh, { pa_ft: 5000, margin_C: 24 }).ratings;
    TEMPERATURES_C.forEach((_t, i) => {
      expect(twoMinutes!.kg[i]!).toBeGreaterThanOrEqual(continuous!.kg[i]!);
      expect(thirty!.kg[i]!).toBeGreaterThanOrEqual(twoMinutes!.kg[i]!);
      expect(higher[2]!.kg[i]!).toBeLessThan(thirty!.kg[i]!);
      expect(thirty!.kg[i]!).toBeLessThanOrEqual(thirty!.kg[Math.max(0, i - 1)]!);
    });
    expect([continuous!.hard, thirty!.hard]).toEqual([false, true]);
  });
});

describe('the map of failures', () => {
  const points = failureGrid(haugh.loading, 1000);
  const thirty = heldByTemperature(haugh, { pa_ft: 1000, margin_C: 24 }).ratings[2]!;
  /** It held wherever it was said to, and nowhere else. */
  const asSaid = points.map(({ mass_kg, oat_C }) => mass_kg <= thirty.kg[TEMPERATURES_C.indexOf(oat_C)]!);

  test('has every temperature with every weight once, from light to the greatest', () => {
    expect(points).toHaveLength(400);
    expect(new Set(points.map((p) => `${p.oat_C}/${p.mass_kg}`)).size).toBe(400);
    expect(Math.max(...points.map((p) => p.mass_kg))).toBe(haugh.loading.mtow_kg);
    expect(points.every((p) => Math.abs(p.pa_m - 304.8) < 1e-6)).toBe(true);
  });

  test('is held against the line: what fell though it was said to hold is unsafe, what held beside it is not', () => {
    expect(agreementOf(asSaid, points, thirty)).toEqual({ share: 100, unsafe: 0 });
    const fell = asSaid.map((held, i) => held && i !== asSaid.indexOf(true));
    expect(agreementOf(fell, points, thirty)).toEqual({ share: 99.75, unsafe: 1 });
    const held = asSaid.map((h, i) => h || i === asSaid.indexOf(false));
    expect(agreementOf(held, points, thirty)).toEqual({ share: 99.75, unsafe: 0 });
  });

  test('what has not been flown is not counted', () => {
    expect(agreementOf(points.map(() => null), points, thirty)).toBeNull(); // oxfmt-ignore
    expect(agreementOf([asSaid[0]!, ...points.slice(1).map(() => null)], points, thirty)?.share).toBe(100);
  });
});
