import type { PistonControls, PistonFaults } from './controls.ts';
import type { PistonState } from './state.ts';
import { throat_C } from './slow.ts';

const TAU_s = { tach: 0.18, map: 0.3, oilP: 0.5, oilT: 2.5, cht: 2.5, carb: 1.5 } as const;
const LOW_ROTOR = 0.93;

/** What the panel of a piston trainer reads: each gauge with its lag, lamps and horn. @source docs/piston.md 2.11 */
export class PistonSensors {
  n = 0;
  nr = 0;
  map_Pa = 0;
  oil_Pa = 0;
  oil_C = 0;
  cht_C = 0;
  carb_C = 0;
  oilLight = false;
  alternatorLight = false;
  starterLight = false;
  lowRotor = false;
  horn = false;

  /** Puts every gauge where its state is. */
  settle(x: PistonState): void {
    this.n = x.we / x.p.w_e100_rad_s;
    this.nr = (x.wr * x.p.g) / x.p.w_e100_rad_s;
    this.map_Pa = x.pm;
    this.oil_Pa = x.poil;
    this.oil_C = x.To;
    this.cht_C = x.Th;
    this.carb_C = 0.6 * x.env.oat + 0.4 * x.Tcb;
  }

  follow(x: PistonState, c: PistonControls, f: PistonFaults, dt: number): void {
    const p = x.p;
    const nr = (x.wr * p.g) / p.w_e100_rad_s;
    const n = x.we / p.w_e100_rad_s;
    this.n += (((f.tachEFail ? 0 : n) - this.n) * dt) / (TAU_s.tach + dt);
    this.nr += (((f.tachRFail ? 0 : nr) - this.nr) * dt) / (TAU_s.tach + dt);
    this.map_Pa += ((x.pm + f.mapBias - this.map_Pa) * dt) / (TAU_s.map + dt);
    this.oil_Pa += ((x.poil + f.oilPBias - this.oil_Pa) * dt) / (TAU_s.oilP + dt);
    this.oil_C += ((x.To + f.oilTBias - this.oil_C) * dt) / (TAU_s.oilT + dt);
    this.cht_C += ((x.Th + f.chtBias - this.cht_C) * dt) / (TAU_s.cht + dt);
    this.carb_C += ((0.6 * throat_C(x, x.ma) + 0.4 * x.Tcb - this.carb_C) * dt) / (TAU_s.carb + dt);
    this.oilLight = c.master > 0 && x.poil < 1.1e5;
    this.alternatorLight = c.master > 0 && x.Ia < 1;
    this.starterLight = x.relay;
    this.lowRotor = c.master > 0 && nr < LOW_ROTOR;
    this.horn = this.lowRotor && (c.col > 0.02 || nr > 0.78) && x.x > 0.5 && !f.hornFail;
  }
}
