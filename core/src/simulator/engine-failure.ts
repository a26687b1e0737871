import type { SimulatorParameters } from '../aircraft/index.ts';
import { coldControls } from './inputs.ts';
import { Simulator, TICK_S } from './simulator.ts';

/** Where an engine quits: a hover at this weight in this air. */
export interface FailurePoint {
  mass_kg: number;
  oat_C: number;
  pa_m: number;
  /** of the skids, m */
  height_m: number;
  /** which limits the control of the other engine then keeps */
  rating: '30s' | '2min' | 'cont';
  headwind_kt?: number;
  /** of compressor and turbines of both engines, as faults are written */
  worn?: Readonly<Partial<Record<'comp_eff' | 'comp_flow' | 'turb_eff', number>>>;
}

export interface FailureFlown {
  /** the height is kept at flight rotor speed, after what the failure itself cost */
  holds: boolean;
  /** lowest below where it began, m */
  lost_m: number;
  nrMin_pct: number;
  /** mean over the last seconds; down is negative */
  climb_mps: number;
  torque_pct: number;
}

/** The control counts an engine as settled only after eight seconds of flight. */
const SETTLE_S = 9;
const AFTER_S = 24;
const MEAN_S = 5;
/** A test pilot's hands keep the rotor here, a fraction. */
const NR_KEPT = 0.97;
/** slower than this is no longer flown */
const NR_LEAST_pct = 96;
const STEPS_PER_TICK = 2;
/** of 100 % rotor speed, near a usual hover */
const FIRST_COLLECTIVE = 0.5;
const SINKS_mps = -0.15;
const NEAR_GROUND_m = 20;
const KEPT_SHARE = 0.7;

/**
 * Flies one engine failure in a hover: both engines settle, engine 1 is lost, a test pilot holds the height as far as
 * the rotor speed allows. The same equations as a whole run, at half its plant steps.
 */
export function flyEngineFailure(parameters: SimulatorParameters, at: FailurePoint): FailureFlown {
  const simulator = new Simulator(
    parameters,
    {
      env: { oat_c: at.oat_C, pa_m: at.pa_m, headwind_kt: at.headwind_kt ?? 0 },
      mass_kg: at.mass_kg,
      height_m: at.height_m,
      running: { coll: FIRST_COLLECTIVE },
    },
    1,
    STEPS_PER_TICK,
  );
  for (const engine of simulator.engines) Object.assign(engine.faults, at.worn);
  const controls = coldControls(parameters);
  Object.assign(controls, { battery: 1, boost: 1, flight: 1, coll: FIRST_COLLECTIVE, h_ref: at.height_m });
  controls.rating = at.rating;
  controls.nr_min = NR_KEPT;
  controls.coll_mode = 'hover_nr';
  for (const lever of controls.engines) Object.assign(lever, { mode: 'FLY', gen: 1 });
  for (let i = 0; i < SETTLE_S / TICK_S; i++) simulator.tick(controls);
  const { rotor } = simulator;
  const from_m = rotor.h_m;
  controls.engines[0]!.mode = 'OFF';
  let lowest_m = from_m;
  let nrMin_pct = 100 * rotor.nr;
  let meanFrom_m = from_m;
  for (let i = 0; i < AFTER_S / TICK_S; i++) {
    simulator.tick(controls);
    if (rotor.h_m < lowest_m) lowest_m = rotor.h_m;
    if (100 * rotor.nr < nrMin_pct) nrMin_pct = 100 * rotor.nr;
    if (i === Math.round((AFTER_S - MEAN_S) / TICK_S)) meanFrom_m = rotor.h_m;
  }
  // without a hover to begin with there is none to hold; near the ground one that settles onto its cushion is not held
  const hovered = from_m > KEPT_SHARE * at.height_m;
  const leastHeight_m = from_m < NEAR_GROUND_m ? KEPT_SHARE * from_m : NEAR_GROUND_m;
  const climb_mps = (rotor.h_m - meanFrom_m) / MEAN_S;
  return {
    holds: hovered && climb_mps >= SINKS_mps && rotor.h_m >= leastHeight_m && 100 * rotor.nr >= NR_LEAST_pct,
    lost_m: from_m - lowest_m,
    nrMin_pct,
    climb_mps,
    torque_pct: simulator.sensors[1]!.tq_pct,
  };
}
