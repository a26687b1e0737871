import type { SimulatorParameters } from '../aircraft/index.ts';
import { AirStarter } from './air-starter.ts';
import { DigitalControl } from './digital-control.ts';
import { ElectricalNetwork } from './electrical.ts';
import { Engine, type EngineSurroundings } from './engine.ts';
import { type EngineControl, noControlInputs } from './engine-control.ts';
import { type Environment, type EnvironmentInput, environmentOf } from './environment.ts';
import { flyCollective } from './hover-pilot.ts';
import { Inertial } from './inertial.ts';
import { coldControls, type Controls, type EngineControls, noAircraftFaults } from './inputs.ts';
import { ManualControl } from './manual-control.ts';
import { OneEngineOut } from './one-engine-out.ts';
import { KELVIN } from './physics.ts';
import { NormalSource } from './random.ts';
import { Rotor } from './rotor.ts';
import { coldSensors, type EngineSensors, sampleEngine } from './sensors.ts';

/** Control and sensor period: 50 Hz. */
export const TICK_S = 0.02;
const DEFAULT_STEPS_PER_TICK = 4;

/** How the aircraft stands when the simulation begins; what is absent takes the default of docs/physics.md. */
export interface Conditions {
  env?: Partial<EnvironmentInput>;
  soc?: number;
  batt_temp_c?: number;
  batt_age?: number;
  residual_c?: number;
  oil_temp_c?: number;
  mgb_temp_c?: number;
  mass_kg?: number;
  height_m?: number;
  coll?: number;
  /** engines already at flight with this collective */
  running?: { coll: number };
  noise?: boolean;
}

/**
 * A turbine helicopter as equations, for one or two engines. `tick` is one control period and never allocates;
 * the same type, conditions, seed and controls give the same numbers on every machine.
 */
export class Simulator {
  readonly parameters: SimulatorParameters;
  readonly env: EnvironmentInput;
  /** the engines that drive the rotor */
  readonly engines: Engine[] = [];
  /** the auxiliary unit, on aircraft that have one */
  readonly apu: Engine | null = null;
  /** engines, and behind them the auxiliary unit: controls and sensors stand in the same order */
  readonly blocks: Engine[] = [];
  readonly controlUnits: EngineControl[] = [];
  readonly sensors: EngineSensors[] = [];
  readonly oneEngineOut: OneEngineOut | null = null;
  readonly inertial: Inertial | null = null;
  inertialOn = false;
  readonly rotor: Rotor;
  readonly bus: ElectricalNetwork;
  readonly faults = noAircraftFaults();
  /** samples of the bus and the rotor at the last tick */
  volts = 0;
  nr_pct = 0;
  ticks = 0;

  private readonly air: Environment = { T_oat: 0, p_a: 0, rho: 0, wind_m_s: 0, tail_m_s: 0, p_in: 0, p_ex: 0 };
  private readonly stillAir: Environment = { ...this.air };
  private readonly around: EngineSurroundings;
  private readonly aroundAuxiliary: EngineSurroundings;
  private readonly airStarters: AirStarter[] = [];
  private readonly noise: NormalSource | null;
  private readonly stepsPerTick: number;
  private readonly h_s: number;
  private readonly controlInputs = noControlInputs();

  // what each part begins from is said in one place
  // oxlint-disable-next-line eslint/complexity
  constructor(
    parameters: SimulatorParameters,
    conditions: Conditions,
    seed: number,
    stepsPerTick = DEFAULT_STEPS_PER_TICK,
  ) {
    this.parameters = parameters;
    this.stepsPerTick = stepsPerTick;
    this.h_s = TICK_S / stepsPerTick;
    this.env = { oat_c: 15, pa_m: 0, headwind_kt: 0, recirc: 1, ...conditions.env };
    this.refreshAir();
    const oat = this.env.oat_c;
    const residual_K = (conditions.residual_c ?? oat) + KELVIN;
    const oil_K = (conditions.oil_temp_c ?? oat) + KELVIN;
    const { engine, apu } = parameters;
    for (let i = 0; i < parameters.n_engines; i++) {
      this.engines.push(new Engine(engine, this.air.T_oat, residual_K, oil_K));
      this.controlUnits.push(engine.kind === 'hmu' ? new ManualControl(engine) : new DigitalControl(engine));
      if (engine.starter_type === 'air') this.airStarters.push(new AirStarter(engine));
    }
    this.blocks.push(...this.engines);
    if (apu) {
      this.apu = new Engine(apu, this.air.T_oat, this.air.T_oat, oil_K);
      this.blocks.push(this.apu);
      this.controlUnits.push(new DigitalControl(apu, apu));
    }
    for (let i = 0; i < this.blocks.length; i++) this.sensors.push(coldSensors(oat));
    if (engine.kind === 'fadec' && 'ratings' in engine && parameters.n_engines === 2)
      this.oneEngineOut = new OneEngineOut(engine);
    if (parameters.inertial) this.inertial = new Inertial(parameters.inertial);
    const aircraft = parameters.aircraft;
    this.rotor = new Rotor(
      parameters.rotor,
      conditions.mass_kg ?? aircraft.mass_ref_kg,
      conditions.height_m ?? 0,
      conditions.coll ?? 0,
      (conditions.mgb_temp_c ?? oat) + KELVIN,
    );
    this.bus = new ElectricalNetwork(parameters.electrical, conditions.batt_age ?? 1, this.blocks.length);
    this.bus.soc = conditions.soc ?? 0.9;
    this.bus.battery_K = (conditions.batt_temp_c ?? oat) + KELVIN;
    const around = { boost: 0, bleed_frac: 0, bleed_kg_s: 0, recirc: this.env.recirc, nr: 0 };
    this.around = { ...around, recirc_max: aircraft.recirc_max };
    this.aroundAuxiliary = { ...around, recirc_max: 0 };
    this.noise = conditions.noise ? new NormalSource(seed) : null;
    this.bus.refreshBattery();
    if (conditions.running) this.startRunning(conditions.running.coll);
    this.evaluate(coldControls(parameters));
  }

  private startRunning(coll: number): void {
    const nr = this.parameters.engine.np_ref_pct / 100;
    this.rotor.nr = nr;
    this.rotor.c = coll;
    this.rotor.vi = 10;
    this.rotor.Tmgb = 343.15;
    this.rotor.pmgb = 4;
    this.engines.forEach((e, i) => {
      e.np = nr;
      e.n = 0.92;
      e.Tm = 1050;
      e.Ttc = 873.15;
      e.wf = 0.6 * e.p.wf_ref_kg_s;
      e.m_man = e.p.manifold_kg;
      e.b = 1;
      e.lit = true;
      e.Toil = 348.15;
      e.poil = 4;
      e.fuelValve = true;
      this.controlUnits[i]!.startRunning(e.wf, coll);
    });
  }

  /** Takes changes of `env` into account. */
  refreshAir(): void {
    environmentOf(this.env, this.parameters.aircraft.exhaust_wind_coeff, this.air);
    Object.assign(this.stillAir, this.air);
    this.stillAir.p_in = this.stillAir.p_ex = this.air.p_a;
  }

  /** Air that the starter of one engine takes, kg/s; 0 where a motor turns it. */
  starterAir(engine: number): number {
    return this.airStarters[engine]?.flow_kg_s ?? 0;
  }

  /** One control period: sensors, controls, generators, then the plant steps. */
  tick(controls: Controls): void {
    this.sample();
    let sparks = 0;
    this.oneEngineOut?.tick(controls, this.controlUnits, this.sensors, this.nr_pct, TICK_S);
    for (let i = 0; i < this.blocks.length; i++) {
      this.control(i, controls);
      if (this.blocks[i]!.spark) sparks++;
      this.blocks[i]!.refreshViscosity();
    }
    for (let i = 0; i < this.airStarters.length; i++) this.airStarters[i]!.moveValve(this.engines[i]!.starter, TICK_S);
    flyCollective(controls, this.rotor, TICK_S);
    for (let i = 0; i < this.blocks.length; i++) this.generator(i, controls);
    this.inertialOn = controls.ins > 0;
    this.inertial?.tick(this.inertialOn, this.volts, this.env.oat_c, TICK_S);
    this.rotor.refreshViscosity();
    this.bus.refreshBattery();
    this.bus.setLoads(controls, sparks);
    for (let k = 0; k < this.stepsPerTick; k++) {
      this.evaluate(controls);
      this.bus.integrate(this.h_s);
      for (let i = 0; i < this.blocks.length; i++) this.blocks[i]!.integrate(this.h_s);
      this.rotor.integrate(this.h_s, this.engines);
    }
    this.ticks++;
  }

  private sample(): void {
    const oat = this.env.oat_c;
    const sensing = this.parameters.sensors;
    this.volts = this.bus.volts;
    this.nr_pct = this.rotor.nr < 0.015 ? 0 : 100 * this.rotor.nr;
    for (let i = 0; i < this.blocks.length; i++)
      sampleEngine(this.blocks[i]!, sensing, oat, this.noise, this.sensors[i]!);
  }

  private leverOf(i: number, controls: Controls): EngineControls {
    return i < this.engines.length ? controls.engines[i]! : controls.apu!;
  }

  private control(i: number, controls: Controls): void {
    const e = this.blocks[i]!;
    const s = this.sensors[i]!;
    const lever = this.leverOf(i, controls);
    const input = this.controlInputs;
    const { engine } = this.parameters;
    const drives = i < this.engines.length;
    input.volts = this.volts;
    input.ngA_pct = s.ngA_pct;
    input.ngB_pct = s.ngB_pct;
    input.tot_C = s.tot_C;
    input.totValid = s.totValid;
    input.np_pct = s.np_pct;
    input.tq_pct = s.tq_pct;
    input.coll = this.rotor.c;
    input.lit = e.lit;
    input.T_oat = this.air.T_oat;
    input.p_a = this.air.p_a;
    input.rho = this.air.rho;
    input.n = e.n;
    input.pi = e.pi;
    input.channelALost = e.faults.fadec_ch_a > 0;
    input.channelBLost = e.faults.fadec_ch_b > 0;
    input.fuelCut = e.faults.fuel_cut > 0;
    input.selector = lever.mode;
    input.start = lever.start;
    input.starterSwitch = lever.starter_sw;
    input.igniterSwitch = lever.ign_sw;
    input.stopMotoring = lever.abort === 2;
    input.grip = lever.grip;
    input.pilot = lever.pilot;
    input.limits = engine.kind === 'hmu' ? null : engine.limits_to;
    input.trim_pct = 0;
    if (drives && this.oneEngineOut) {
      input.limits = this.oneEngineOut.limits[i as 0 | 1];
      input.trim_pct = this.oneEngineOut.trim(i, controls, this.controlUnits, this.sensors);
    }
    const unit = this.controlUnits[i]!;
    unit.tick(input, TICK_S);
    if (lever.pilot) lever.grip = unit.grip;
    e.starter = unit.starter;
    e.spark = unit.spark;
    e.fuelValve = unit.fuelValve && lever.fuel_valve > 0;
    e.wf_cmd = unit.wf;
  }

  private generator(i: number, controls: Controls): void {
    const e = this.blocks[i]!;
    const p = e.p;
    e.genOnline =
      this.leverOf(i, controls).gen > 0 && !e.faults.gen_fail && !e.gen_trip && !e.starter && e.n > p.gen_n_min;
    const r = e.gen_a / p.gen_i_rated_a;
    e.gen_ovl = r > 1 ? e.gen_ovl + TICK_S * (r * r - 1) : Math.max(0, e.gen_ovl - 0.25 * TICK_S);
    if (e.gen_ovl > p.gen_ovl_trip) e.gen_trip = true;
  }

  private evaluate(controls: Controls): void {
    const bus = this.bus;
    const byAir = this.airStarters.length > 0;
    let cranking = false;
    for (let i = 0; i < this.blocks.length; i++) {
      const e = this.blocks[i]!;
      const p = e.p;
      const w = e.n * p.starter_w_ref_rad_s;
      const starter = bus.starters[i]!;
      starter.on = e.starter && !e.faults.starter_drop && !(byAir && i < this.engines.length);
      if (starter.on) cranking = true;
      starter.source_v = p.starter_ksh * w;
      starter.resistance_ohm =
        (p.starter_r_ohm * (1 + 0.0039 * e.dTst) + p.starter_lead_r_ohm) * e.faults.starter_r_mult + p.starter_kse * w;
    }
    const kept = cranking && !controls.bus_tie;
    for (let i = 0; i < this.blocks.length; i++) {
      const e = this.blocks[i]!;
      const p = e.p;
      const gen = bus.generators[i]!;
      gen.on = e.genOnline && !kept;
      gen.source_v = p.gen_v_set_v - 4 * (1 - e.sgen);
      gen.resistance_ohm = p.gen_r_ohm;
      gen.limit_a = p.gen_i_lim_a;
    }
    bus.solve(controls, this.faults.bat_r_mult, this.air.T_oat);
    if (this.apu) this.evaluateAuxiliary(this.apu, controls);
    const around = this.around;
    around.boost = controls.boost;
    around.bleed_frac =
      (controls.anti_ice ? this.parameters.engine.bleed_anti_ice : 0) +
      (controls.bleed_heat ? this.parameters.engine.bleed_heat : 0);
    around.recirc = this.env.recirc;
    around.nr = this.rotor.nr;
    for (let i = 0; i < this.engines.length; i++)
      this.engines[i]!.evaluate(
        this.air,
        around,
        bus.volts,
        bus.starters[i]!.current_a,
        bus.generators[i]!.current_a,
        byAir ? this.airStarters[i]!.power_w : 0,
      );
    const f = this.faults;
    this.rotor.evaluate(
      this.air,
      this.engines,
      controls.coll,
      controls.rotor_brake,
      controls.hyd_test,
      f.hyd1_fail,
      f.hyd2_fail,
      f.mgb_pump_fail,
    );
  }

  /** The auxiliary unit, and the air that it gives to the starters. */
  private evaluateAuxiliary(apu: Engine, controls: Controls): void {
    const around = this.aroundAuxiliary;
    around.bleed_kg_s = 0;
    for (let i = 0; i < this.airStarters.length; i++) {
      this.airStarters[i]!.evaluate(apu, controls.apu_bleed > 0, this.engines[i]!, this.air);
      around.bleed_kg_s += this.airStarters[i]!.flow_kg_s;
    }
    const at = this.engines.length;
    apu.evaluate(
      this.stillAir,
      around,
      this.bus.volts,
      this.bus.starters[at]!.current_a,
      this.bus.generators[at]!.current_a,
      0,
    );
  }
}
