import { exp } from '../elementary.ts';

/** Saturation pressure over water, Pa. @source Magnus, docs/piston.md 2 */
export const overWater_Pa = (t_C: number): number => 610.94 * exp((17.625 * t_C) / (t_C + 243.04));

/** Saturation pressure over ice, Pa. @source Magnus, docs/piston.md 2 */
export const overIce_Pa = (t_C: number): number => 611.21 * exp((22.587 * t_C) / (t_C + 273.86));
