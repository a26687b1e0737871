import type { Controls } from './inputs.ts';
import { clip } from './physics.ts';
import type { Rotor } from './rotor.ts';

/** A test pilot who holds a height with the collective, and with it the rotor speed when asked. @source docs/physics.md 19.2 */
export function flyCollective(controls: Controls, rotor: Rotor, dt_s: number): void {
  if (controls.coll_mode !== 'hover' && controls.coll_mode !== 'hover_nr') return;
  const vz_ref = clip(0.5 * (controls.h_ref - rotor.h_m), -3, 2);
  let rate = clip(0.1 * (vz_ref - rotor.vz) - (0.09 * rotor.Fz) / rotor.mass_kg, -0.3, 0.3);
  if (controls.coll_mode === 'hover_nr')
    rate = Math.min(rate, clip(6 * (rotor.nr - controls.nr_min) + 3 * rotor.d_nr, -0.6, 0.6));
  controls.coll = clip(controls.coll + rate * dt_s, 0, 1);
}
