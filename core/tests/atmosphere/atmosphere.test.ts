import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  airRatios,
  altimeterReading_ft,
  densityAltitude,
  isa,
  isaInverse,
  pressureAltitude,
} from '@rouse/core/atmosphere';
import { attempt } from '@rouse/core/quantity';

const qnh = fc.double({ min: 940, max: 1050, noNaN: true });
const elevation = fc.double({ min: -500, max: 9000, noNaN: true });
const oat = fc.double({ min: -40, max: 45, noNaN: true });

describe('the standard atmosphere', () => {
  test('a height comes back from its pressure, across the tropopause', () => {
    fc.assert(
      fc.property(fc.double({ min: -1999, max: 19_999, noNaN: true }), (h_m) => {
        expect(isaInverse(isa(h_m).p_Pa).h_m).toBeCloseTo(h_m, 4);
      }),
    );
  });

  test('pressure and density only fall with height', () => {
    let above = isa(-2000);
    for (let h_m = -1900; h_m <= 20_000; h_m += 100) {
      const air = isa(h_m);
      expect(air.p_Pa).toBeLessThan(above.p_Pa);
      expect(air.delta).toBeLessThan(above.delta);
      above = air;
    }
  });

  test('nothing is said outside it', () => {
    expect(attempt(() => isa(20_001))).toEqual({ error: 'OUT_OF_DOMAIN', field: 'h_m' });
    expect(attempt(() => isa(-2001))).toEqual({ error: 'OUT_OF_DOMAIN', field: 'h_m' });
    expect(attempt(() => isaInverse(0))).toEqual({ error: 'OUT_OF_DOMAIN', field: 'p_Pa' });
  });
});

describe('pressure altitude', () => {
  test('it is the elevation on a standard day, and higher on every lower pressure', () => {
    expect(pressureAltitude({ elev_ft: 1234, qnh_hPa: 1013.25 }).pa_ft).toBeCloseTo(1234, 6);
    fc.assert(
      fc.property(elevation, qnh, fc.double({ min: 0.1, max: 5, noNaN: true }), (elev_ft, p, less) => {
        const here = pressureAltitude({ elev_ft, qnh_hPa: p }).pa_ft;
        expect(pressureAltitude({ elev_ft, qnh_hPa: p - less }).pa_ft).toBeGreaterThan(here);
      }),
    );
  });

  test('it is the same in either unit of pressure, and one of them is asked for', () => {
    const metric = pressureAltitude({ elev_ft: 61, qnh_hPa: 1013.207481 }).pa_ft;
    expect(pressureAltitude({ elev_ft: 61, qnh_inHg: 29.92 }).pa_ft).toBeCloseTo(metric, 2);
    expect(attempt(() => pressureAltitude({ elev_ft: 61 }))).toMatchObject({ error: 'MISSING' });
    expect(attempt(() => pressureAltitude({ elev_ft: 61, qnh_hPa: 1013, qnh_inHg: 29.92 }))).toMatchObject({
      error: 'INCONSISTENT',
    });
    expect(attempt(() => pressureAltitude({ elev_ft: 61, qnh_hPa: 29.92 }))).toEqual({
      error: 'OUT_OF_RANGE',
      field: 'qnh_hPa',
    });
  });

  test('an unusual pressure is said to be one', () => {
    expect(pressureAltitude({ elev_ft: 61, qnh_hPa: 935 }).warnings).toContain('QNH_UNUSUAL');
    expect(pressureAltitude({ elev_ft: 61, qnh_hPa: 1005 }).warnings).toEqual([]);
  });

  test('an altimeter set to the pressure of the day reads the elevation', () => {
    fc.assert(
      fc.property(elevation, qnh, (elev_ft, p) => {
        expect(altimeterReading_ft({ elev_ft, qnh_hPa: p, setting_hPa: p })).toBeCloseTo(elev_ft, 6);
      }),
    );
  });

  test('set too high it reads too high, near 27 feet for each hectopascal', () => {
    const read = altimeterReading_ft({ elev_ft: 61, qnh_hPa: 1008, setting_hPa: 1009 });
    expect(read - 61).toBeGreaterThan(25);
    expect(read - 61).toBeLessThan(30);
  });
});

describe('density altitude', () => {
  test('humid air is never denser than dry air, and saturated air is the thinnest', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 8000, noNaN: true }),
        oat,
        fc.double({ min: 0, max: 25, noNaN: true }),
        (pa_ft, t, below) => {
          const humid = densityAltitude({ pa_ft, oat_C: t, dew_C: t - below });
          const saturated = densityAltitude({ pa_ft, oat_C: t });
          expect(humid.da_ft).toBeGreaterThanOrEqual(humid.da_dry_ft - 1e-6);
          expect(saturated.da_ft).toBeGreaterThanOrEqual(humid.da_ft - 1e-6);
          expect(saturated.mode).toBe('saturated-assumed');
        },
      ),
    );
  });

  test('warmer air is higher', () => {
    let before = -Infinity;
    for (let t = -40; t <= 45; t += 5) {
      const { da_ft } = densityAltitude({ pa_ft: 2000, oat_C: t, dew_C: -45 });
      expect(da_ft).toBeGreaterThan(before);
      before = da_ft;
    }
  });

  test('what is shown is never lower than what was computed', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 8000, noNaN: true }), oat, (pa_ft, t) => {
        const { da_ft, display } = densityAltitude({ pa_ft, oat_C: t });
        expect(display.da_ft).toBeGreaterThanOrEqual(da_ft - 1e-6);
        expect(display.da_ft - da_ft).toBeLessThan(10.001);
      }),
    );
  });

  test('a dew point above the temperature is a contradiction', () => {
    expect(attempt(() => densityAltitude({ pa_ft: 0, oat_C: 10, dew_C: 11 }))).toEqual({
      error: 'INCONSISTENT',
      field: 'dew_C',
    });
  });

  test('ratios agree with each other', () => {
    fc.assert(
      fc.property(fc.double({ min: -1000, max: 20_000, noNaN: true }), oat, (pa_ft, t) => {
        const { delta, theta, sigma } = airRatios({ pa_ft, oat_C: t });
        expect(sigma).toBeCloseTo(delta / theta, 9);
      }),
    );
  });
});
