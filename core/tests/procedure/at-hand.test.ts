import { expect, test } from 'vitest';
import { type AtHand, workOut } from '@rouse/core/procedure';
import { fleet, typeOf } from '../fleet.ts';

const AT: AtHand = { pa_ft: 60, oat_C: 30, wind_deg: 240, wind_kt: 20, nose_deg: 243, fuel_kg: 100 };

test('wind on the nose is turned from true to magnetic, and a side has its sign', () => {
  expect(workOut(typeOf('S7'), AT, -3, 'none')).toMatchObject({ headwind_kt: 20, crosswind_kt: 0 });
  expect(workOut(typeOf('S7'), { ...AT, nose_deg: 153 }, -3, 'none')).toMatchObject({
    headwind_kt: 0,
    crosswind_kt: 20,
  });
});

test('a hot day is rounded the safe way: more height, less power, less time', () => {
  for (const type of fleet) {
    const cool = workOut(type, { ...AT, oat_C: 10 }, 0, 'none');
    const hot = workOut(type, AT, 0, 'none');
    expect(hot.densityAltitude_ft!, type.id).toBeGreaterThan(cool.densityAltitude_ft!);
    expect(hot.densityAltitude_ft! % 10, type.id).toBe(0);
    expect(hot.continuous!, type.id).toBeLessThanOrEqual(hot.takeOff!);
    expect(Number.isInteger(hot.cruise_min), type.id).toBe(true);
  }
  const turbines = fleet.filter((t) => t.engines[0]!.kind === 'turbine');
  for (const type of turbines)
    expect(workOut(type, AT, 0, 'none').takeOff!, type.id).toBeLessThanOrEqual(
      workOut(type, { ...AT, oat_C: 10 }, 0, 'none').takeOff!,
    );
});

test('what one figure lacks says nothing of the others, and nothing is given outside of a chart', () => {
  const noWind = workOut(typeOf('H9'), { ...AT, wind_deg: null }, 0, 'none');
  expect(noWind).toMatchObject({ headwind_kt: null, crosswind_kt: null });
  expect(noWind.takeOff).not.toBeNull();
  const noAir = workOut(typeOf('H9'), { ...AT, oat_C: null }, 0, 'none');
  expect(noAir).toMatchObject({ densityAltitude_ft: null, takeOff: null, continuous: null });
  expect(noAir.headwind_kt).not.toBeNull();
  // a compass that nobody has turned, and air that may be bled, are no figures either
  expect(workOut(typeOf('H9'), AT, null, 'none')).toMatchObject({ headwind_kt: null, crosswind_kt: null });
  expect(workOut(typeOf('H9'), AT, 0, null)).toMatchObject({ takeOff: null, continuous: null });
  expect(workOut(typeOf('H9'), { ...AT, oat_C: 75 }, 0, 'none').takeOff).toBeNull();
  expect(workOut(typeOf('H9'), { ...AT, fuel_kg: 0 }, 0, 'none').cruise_min).toBe(0);
});
