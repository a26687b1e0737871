import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { attempt } from '@rouse/core/quantity';
import { downwash, outwash, safeSeparation } from '@rouse/core/rotorwash';
import { references } from '../reference.ts';

const { REF1, REF2 } = references;
const air = { pa_ft: 500, oat_C: 15 };
const mass = fc.double({ min: 2400, max: 3900, noNaN: true });

describe('rotor wash', () => {
  test('a heavier aircraft blows harder, below and along the ground', () => {
    fc.assert(
      fc.property(mass, (mass_kg) => {
        const more = mass_kg + 50;
        expect(downwash(REF2, { ...air, mass_kg: more }).v_far_kt).toBeGreaterThan(
          downwash(REF2, { ...air, mass_kg }).v_far_kt,
        );
        const along = (kilos: number) => outwash(REF2, { ...air, mass_kg: kilos, skid_height_ft: 5, r_m: 20 });
        expect(along(more).u_peak_kt).toBeGreaterThan(along(mass_kg).u_peak_kt);
      }),
    );
  });

  test('far below the disc it is twice what it is in it', () => {
    const wash = downwash(REF2, { ...air, mass_kg: 3500 });
    expect(wash.v_far_mps).toBeCloseTo(2 * wash.v_disc_mps, 9);
    expect(wash.dyn_pressure_far_Pa).toBeCloseTo(wash.disc_loading_Nm2, 6);
  });

  test('along the ground it falls with distance, never above what comes down', () => {
    let before = Infinity;
    for (let r_m = 9; r_m < 80; r_m += 2) {
      const { u_mean_mps, u_peak_mps } = outwash(REF2, { ...air, mass_kg: 3500, skid_height_ft: 5, r_m });
      expect(u_mean_mps).toBeLessThanOrEqual(before);
      expect(u_mean_mps).toBeLessThanOrEqual(downwash(REF2, { ...air, mass_kg: 3500 }).v_far_mps + 1e-9);
      expect(u_peak_mps).toBeGreaterThan(u_mean_mps);
      before = u_mean_mps;
    }
  });

  test('under the rotor itself nothing is said', () => {
    expect(attempt(() => outwash(REF2, { ...air, mass_kg: 3500, skid_height_ft: 5, r_m: 2 }))).toEqual({
      error: 'OUT_OF_DOMAIN',
      field: 'r_m',
    });
  });
});

describe('the distance to keep', () => {
  const to = (neighbour_nr_frac: number, wind_kt: number, mass_kg = 3500) =>
    safeSeparation(REF2, REF1, { ...air, mass_kg, skid_height_ft: 5, neighbour_nr_frac, wind_kt });

  test('a slow rotor is kept further from than a fast one', () => {
    expect(to(0.2, 5).susceptible).toBe(true);
    expect(to(1, 5).susceptible).toBe(false);
    expect(to(0.2, 5).distance_m!).toBeGreaterThan(to(1, 5).distance_m!);
    expect(to(1, 5).reasons).toContain('NEIGHBOUR_ROTOR_FAST');
  });

  test('more wind or more mass never brings it nearer', () => {
    for (let wind = 0; wind < 12; wind += 1) {
      const [less, more] = [to(0.2, wind), to(0.2, wind + 1)];
      expect(more.distance_m ?? Infinity).toBeGreaterThanOrEqual((less.distance_m ?? Infinity) - 1e-9);
    }
    expect(to(0.2, 5, 3900).distance_m!).toBeGreaterThanOrEqual(to(0.2, 5, 2600).distance_m!);
  });

  test('where the wind alone is too much no distance is safe', () => {
    const { status, distance_m } = to(0.2, 60);
    expect(status).toBe('AMBIENT_WIND_ALREADY_OVER');
    expect(distance_m).toBeNull();
  });

  test('what is shown is never nearer than what was found', () => {
    const { distance_m, display } = to(0.2, 8);
    expect(display!.distance_m).toBeGreaterThanOrEqual(distance_m!);
  });
});
