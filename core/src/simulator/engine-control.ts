import type { LimitSet } from '../aircraft/index.ts';
import type { EngineSelector, ManualPilotPlan } from './inputs.ts';

/** Value and filtered rate of one sensed signal, as the control keeps it. */
export class FilteredRate {
  value = 0;
  rate = 0;
  private started = false;

  update(next: number, dt_s: number): void {
    if (this.started) this.rate += (dt_s / (dt_s + 0.1)) * ((next - this.value) / dt_s - this.rate);
    this.started = true;
    this.value = next;
  }
}

/** What a control senses at one tick. Speeds and torque in %, temperature in °C. */
export interface ControlInputs {
  volts: number;
  ngA_pct: number;
  ngB_pct: number;
  tot_C: number;
  totValid: boolean;
  np_pct: number;
  tq_pct: number;
  coll: number;
  lit: boolean;
  T_oat: number;
  p_a: number;
  rho: number;
  /** true speed and compressor pressure ratio, for a mechanical control */
  n: number;
  pi: number;
  channelALost: boolean;
  channelBLost: boolean;
  fuelCut: boolean;
  selector: EngineSelector;
  start: number;
  /** starter switch: motors without fuel on a digital control */
  starterSwitch: number;
  igniterSwitch: number;
  stopMotoring: boolean;
  grip: number;
  pilot: ManualPilotPlan | null;
  /** the limits that hold now; null where the control has its own */
  limits: LimitSet | null;
  /** torque matching, % of power-turbine speed */
  trim_pct: number;
}

/** One object for the life of a control: filled again at every tick, never built anew. */
export function noControlInputs(): ControlInputs {
  return {
    volts: 0,
    ngA_pct: 0,
    ngB_pct: 0,
    tot_C: 0,
    totValid: true,
    np_pct: 0,
    tq_pct: 0,
    coll: 0,
    lit: false,
    T_oat: 0,
    p_a: 0,
    rho: 0,
    n: 0,
    pi: 1,
    channelALost: false,
    channelBLost: false,
    fuelCut: false,
    selector: 'OFF',
    start: 0,
    starterSwitch: 0,
    igniterSwitch: 0,
    stopMotoring: false,
    grip: 0,
    pilot: null,
    limits: null,
    trim_pct: 0,
  };
}

/** What every engine control shows and commands. */
export interface EngineControl {
  readonly mode: string;
  readonly retries: number;
  readonly causes: readonly string[];
  readonly channel: 'A' | 'B';
  /** name of the loop that sets the fuel, for the log */
  readonly limitedBy: string;
  readonly time_s: number;
  readonly ng: { readonly rate: number };
  starter: boolean;
  spark: boolean;
  fuelValve: boolean;
  wf: number;
  /** where the hand has the grip, on a manual control */
  readonly grip: number;
  startRunning(wf_kg_s: number, coll: number): void;
  tick(input: ControlInputs, dt_s: number): void;
}
