import type { PistonParameters } from '../../aircraft/index.ts';
import { clip } from '../physics.ts';
import type { PistonControls, PistonFaults } from './controls.ts';
import type { PistonState } from './state.ts';

/** The pilot hands over to the governor when the speed that is wanted lies this far above its cut-in. */
const HAND_OVER = 0.02;

/** Twist-grip, governor and correlator. @source docs/piston.md 2.1 */
export function gripStep(x: PistonState, c: PistonControls, f: PistonFaults, dt: number): void {
  const p = x.p;
  x.ndot += (((x.n - x.nprev) / dt - x.ndot) * dt) / (p.tau_g_s + dt);
  x.nprev = x.n;
  x.govAct = c.gov > 0 && c.master > 0 && !f.govFail && x.n > p.n_gov;
  let u: number;
  if (c.pilotN !== null) {
    if (x.govAct && c.pilotN > p.n_gov + HAND_OVER) u = governorRate(x, p, f);
    else if (x.relay) u = 0;
    else u = clip(p.kp_pil_per_s * (c.pilotN - x.n) - p.kd_pil * x.ndot, -p.rate_pil_per_s, p.rate_pil_per_s);
  } else if (c.hold) u = clip((c.grip - x.grip) / dt, -p.grip_rate_per_s, p.grip_rate_per_s);
  else u = x.govAct ? governorRate(x, p, f) : 0;
  x.u = u;
  x.grip = clip(x.grip + u * dt, 0, 1);
  x.th = clip(x.grip + (x.grip > p.det ? p.k_cor * c.col : 0), 0, 1);
}

function governorRate(x: PistonState, p: PistonParameters, f: PistonFaults): number {
  let u: number;
  if (x.n > p.n_orp + f.govBias) u = -p.rate_orp_per_s;
  else {
    const e = p.n_ref + f.govBias - x.n;
    u = clip(
      f.govGain * p.kp_gov_per_s * (Math.abs(e) < p.db_gov ? 0 : e) - p.kd_gov * x.ndot,
      -p.rate_gov_per_s,
      p.rate_gov_per_s,
    );
  }
  return (u < 0 && x.grip <= p.gov_min) || (u > 0 && x.grip >= p.gov_max) ? 0 : u;
}
