/** Whether ice must be expected in a carburettor, and why. */
export interface Icing {
  expected: boolean;
  words: string;
}

/** Water that freezes out of a cubic metre, from which ice grows fast enough to matter, g. */
const MATTERS_G_M3 = 0.5;
/** Colder than this in the throat, crystals do not stick, °C. */
const STICKS_ABOVE_C = -24;
const VAPOUR_J_KG_K = 461.5;
const KELVIN = 273.15;

const overWater_Pa = (t_C: number): number => 610.94 * Math.exp((17.625 * t_C) / (t_C + 243.04));
const overIce_Pa = (t_C: number): number => 611.21 * Math.exp((22.587 * t_C) / (t_C + 273.86));

/**
 * Is carburettor heat needed in this air? Fuel that evaporates and air that expands cool the throat; what of the air's
 * water is more than ice can have above it freezes out there. Air that is not known counts as icing.
 * @param cooling_K of the throat at part throttle
 * @source docs/piston.md 2.10 (Magnus vapour pressures)
 */
export function carburettorIcing(oat_C: number | null, dew_C: number | null, cooling_K: number): Icing {
  if (oat_C === null || dew_C === null)
    return { expected: true, words: 'temperature or dew point not known: use heat' };
  const throat_C = oat_C - cooling_K;
  const at = `throat about ${throat_C.toFixed(0)} °C`;
  if (throat_C >= 0) return { expected: false, words: `${at}: too warm for ice` };
  if (throat_C <= STICKS_ABOVE_C) return { expected: false, words: `${at}: crystals do not stick` };
  const in_g_m3 = (1000 * overWater_Pa(Math.min(dew_C, oat_C))) / (VAPOUR_J_KG_K * (oat_C + KELVIN));
  const held_g_m3 = (1000 * overIce_Pa(throat_C)) / (VAPOUR_J_KG_K * (throat_C + KELVIN));
  const freezes_g_m3 = in_g_m3 - held_g_m3;
  return freezes_g_m3 > MATTERS_G_M3
    ? { expected: true, words: `${at}, ${freezes_g_m3.toFixed(1)} g of water freeze out of a cubic metre` }
    : { expected: false, words: `${at}: too dry for ice` };
}
