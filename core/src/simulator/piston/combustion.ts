import { exp, pow } from '../elementary.ts';
import { clip } from '../physics.ts';
import type { PistonControls, PistonFaults } from './controls.ts';
import type { PistonState } from './state.ts';
import { ramp } from './ramp.ts';

const CYLINDERS = 4;
const RPM_PER_RAD_S = 60 / (2 * Math.PI);

/** Sparks, flame, work, heat to head and oil, and friction. @source docs/piston.md 2.5, 2.6 */
export function burn(x: PistonState, c: PistonControls, f: PistonFaults): void {
  const p = x.p;
  const { n, ma } = x;
  const off = (x.phi - p.phi_best) / (x.phi < p.phi_best ? p.phi_lw : p.phi_rw);
  const flame = Math.max(0, 1 - off * off);
  const kb = sparks(x, c, f, flame);

  const adv = n < p.n_imp && x.relay ? 2 : p.adv_deg;
  const late = (adv - (8 + 20 * pow(n, 0.7))) / p.adv_a_deg;
  const kt = Math.max(0.2, 1 - late * late);
  const kr = Math.max(0.05, 1 - (p.k_res * p.c_res * x.pa) / x.pm);
  const hump = (p.k_rip * (p.v_d_m3 / 4) * x.pm * (x.compressed - 1)) / 0.3;
  const ke = (p.j_e_kgm2 * x.we * x.we) / 2 + (x.relay ? p.w_sta_j : 0);
  const kh = (ke * ke) / (ke * ke + hump * hump);
  x.pi_w = (ma * p.q_air_j_per_kg * p.eta_i * flame * kb * kt * kr * kh * n) / (n + p.n_hl);
  x.Tind = x.we <= 1 ? 0 : x.pi_w / x.we;
  x.comp = Math.min(1, flame / 0.3) * kb * (0.3 + 0.7 * kh);
  x.heat_w = ma * p.q_air_j_per_kg * Math.min(1, x.phi) * x.comp;
  const apart = Math.abs(x.phi - p.phi_best) / 0.5;
  const Tg = p.t_gas_c - 140 * apart * Math.sqrt(apart);
  const root = Math.sqrt(ma);
  const flow = root * Math.sqrt(root) * x.comp;
  x.qh = p.k_h_w_per_k * flow * Math.max(Tg - x.Th, 0);
  x.qo = p.k_oil_w_per_k * flow * Math.max(Tg - x.To, 0);
  const most = Math.max(0, 0.9 * (x.heat_w - x.pi_w));
  const sum = x.qh + x.qo;
  if (sum > most) {
    x.qh *= most / sum;
    x.qo *= most / sum;
  }
  friction(x);
}

/** @returns share of the mixture that burns */
function sparks(x: PistonState, c: PistonControls, f: PistonFaults, flame: number): number {
  const p = x.p;
  const { n } = x;
  const left = c.mags === 'L' || c.mags === 'BOTH' || c.mags === 'START' || f.groundL > 0;
  const right = c.mags === 'R' || c.mags === 'BOTH' || f.groundR > 0 || (c.mags === 'START' && n > p.n_imp);
  const wet = x.wet / p.wet_ref_g;
  const spark = ramp(x.we * RPM_PER_RAD_S, p.w_spk0_rpm, p.w_spk1_rpm) / (1 + wet * wet * wet * wet);
  const k1 = 1 - p.k_s0 - p.k_s1 * n;
  let sum = 0;
  let least = Infinity;
  for (let i = 0; i < CYLINDERS; i++) {
    const a = left ? f.magL * x.plugs[i]! : 0;
    const b = right ? f.magR * x.plugs[i + CYLINDERS]! : 0;
    const leads = a >= b;
    const retard = leads ? f.retardL : f.retardR;
    const one = k1 * (1 - 0.0007 * retard * retard);
    const q = (leads ? a : b) * (one + (1 - one) * (leads ? b : a));
    sum += q;
    if (q < least) least = q;
  }
  const mean = sum / CYLINDERS;
  const kb = spark * mean;
  x.rough =
    kb > 0 && n > 0.1
      ? clip(1.6 * (mean - least) + (n > 0.2 ? 0.5 * (1 - Math.min(1, flame / 0.55)) : 0) + 0.35 * (1 - spark), 0, 1)
      : 0;
  return kb;
}

function friction(x: PistonState): void {
  const p = x.p;
  const mu = p.mu_a_pas * exp(p.mu_b_k / (0.55 * x.To + 0.45 * x.Th + p.mu_c_k));
  const fmep_bar =
    p.f0_bar + p.f1_bar * pow((mu / p.mu_ref_pas) * Math.max(x.n, 0.004), p.f_exp) + p.f2_bar * x.n * x.n;
  const perRadian = p.v_d_m3 / (4 * Math.PI);
  x.Tfr = fmep_bar * 1e5 * perRadian;
  x.Tpump = 0.9 * perRadian * Math.max(x.pa - x.pm, 0);
  x.Talt = (x.V * x.Ia) / (p.eta_alt * Math.max(x.we, 20));
}
