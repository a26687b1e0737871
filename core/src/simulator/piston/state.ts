import { exp, pow, sin } from '../elementary.ts';
import type { PistonParameters } from '../../aircraft/index.ts';
import { KELVIN, R_AIR } from '../physics.ts';
import { overWater_Pa } from './vapour.ts';

/** Air around the aircraft. */
export interface PistonEnvironment {
  oat: number;
  pa_ft: number;
  dew: number;
  wind: number;
}

/** States of a piston trainer, and behind them what the last step worked out (docs/piston.md 1). */
export class PistonState {
  readonly p: PistonParameters;
  readonly injected: boolean;
  readonly env: PistonEnvironment;

  we = 0;
  wr = 0;
  lam = 0;
  x = 0;
  tensOK = false;
  pm: number;
  grip = 0;
  ndot = 0;
  nprev = 0;
  film = 0;
  wet = 0;
  phi = 0;
  Th: number;
  To: number;
  Tc: number;
  Tb: number;
  Tcb: number;
  Tmuff: number;
  Tfl: number;
  ice = 0;
  gal = 0;
  poil = 0;
  SOC = 0.95;
  vp = 0;
  Tbat: number;
  relay = false;
  relT = 0;
  Tst: number;
  Tblt: number;
  Tbrk: number;
  glaze = 0;
  readonly plugs = new Float64Array(8).fill(1);
  stick = 1;
  comp = 0;

  pa = 0;
  ewDew = 0;
  rho = 0;
  n = 0;
  u = 0;
  th = 0;
  govAct = false;
  V = 0;
  Ia = 0;
  Ib = 0;
  Ist = 0;
  Qst = 0;
  fb = 0;
  light = false;
  Tin = 0;
  ma = 0;
  mf = 0;
  vlock = 0;
  pi_w = 0;
  Tind = 0;
  heat_w = 0;
  qh = 0;
  qo = 0;
  rough = 0;
  Tfr = 0;
  Tpump = 0;
  Talt = 0;
  Qa = 0;
  Qv = 0;
  Qb = 0;
  thrust = 0;
  chatter = 0;
  ebelt = 0;

  /** sums since the last slow step */
  sum_qh = 0;
  sum_qo = 0;
  sum_f = 0;
  sum_belt = 0;
  sum_brake = 0;
  sum_starter = 0;
  sum_ib = 0;
  sum_ma = 0;
  sum_mf = 0;
  sum_comp = 0;

  /** what the parameters alone decide: compression of the charge, and the two sides of a belt that grips */
  readonly compressed: number;
  readonly gripRatio: number;

  constructor(p: PistonParameters, env: Partial<PistonEnvironment> = {}) {
    this.p = p;
    this.injected = p.induction === 'injection';
    this.compressed = pow(p.r_c, 0.3);
    const sides = exp((p.mu_belt / sin((p.half_v_deg * Math.PI) / 180)) * p.wrap_rad);
    this.gripRatio = (sides - 1) / (sides + 1);
    this.env = { oat: 15, dew: 5, pa_ft: 0, wind: 0, ...env };
    const { oat } = this.env;
    this.Th = this.To = this.Tc = this.Tb = this.Tcb = this.Tmuff = this.Tfl = oat;
    this.Tbat = this.Tst = this.Tblt = this.Tbrk = oat;
    this.refreshAir();
    this.pm = this.pa;
  }

  /** Takes changes of `env` into account. */
  refreshAir(): void {
    const { oat, pa_ft, dew } = this.env;
    this.pa = 101325 * pow(1 - 6.8756e-6 * pa_ft, 5.2559);
    this.ewDew = overWater_Pa(dew);
    this.rho = this.pa / (R_AIR * (oat + KELVIN));
  }
}
