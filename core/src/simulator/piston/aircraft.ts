import type { PistonParameters, StandInAction } from '../../aircraft/index.ts';
import type { SimulatedAircraft } from '../aircraft.ts';
import type { SignalValue } from '../signals.ts';
import { coldPistonControls, type Magnetos, noPistonFaults } from './controls.ts';
import { PistonPlant } from './plant.ts';
import { readPiston, setPistonState } from './scenario.ts';

const DT_S = 0.01;
const STEPS_PER_TICK = 2;
const PA_PER_BAR = 1e5;
const PA_PER_INHG = 3386.389;
const MAGNETOS: readonly Magnetos[] = ['OFF', 'R', 'L', 'BOTH', 'START'];

/** How a piston trainer stands when the simulation begins: states and faults by their names in scenario files. */
export interface PistonConditions {
  env?: Record<string, number>;
  init?: Record<string, number>;
}

/** A piston trainer with its controls. */
export class PistonAircraft implements SimulatedAircraft {
  readonly plant: PistonPlant;
  readonly controls = coldPistonControls();
  readonly faults = noPistonFaults();
  private ticks = 0;
  /** closed at some moment of this tick: a flat battery makes it chatter */
  private contactor = false;

  constructor(parameters: PistonParameters, { env, init }: PistonConditions) {
    this.plant = new PistonPlant(parameters, env);
    for (const [name, value] of Object.entries(init ?? {})) setPistonState(this.plant, name, value);
    this.plant.sensors.settle(this.plant);
  }

  get t_s(): number {
    return (this.ticks * STEPS_PER_TICK) / 100;
  }

  tick(): void {
    this.contactor = false;
    for (let i = 0; i < STEPS_PER_TICK; i++) {
      this.plant.step(this.controls, this.faults, DT_S);
      if (this.plant.relay) this.contactor = true;
    }
    this.ticks++;
  }

  set(name: string, value: StandInAction['to']): void {
    const plug = /^fault\.plug\.([1-8])$/.exec(name);
    if (plug) {
      this.plant.plugs[Number(plug[1]) - 1] = Number(value);
      return;
    }
    const target = name.startsWith('fault.') ? this.faults : name.startsWith('env.') ? this.plant.env : this.controls;
    const key = name.replace(/^(fault|env)\./, '');
    if (!(key in target)) throw new RangeError(`there is no input named ${name}`);
    // a light hand leaves the grip where it is
    Object.assign(target, { [key]: value === 'HOLD' ? this.plant.grip : value });
  }

  signal(name: string): SignalValue | undefined {
    const { sensors } = this.plant;
    switch (name) {
      case 'gauge.n':
        return 100 * sensors.n;
      case 'gauge.nr':
        return 100 * sensors.nr;
      case 'gauge.map':
        return sensors.map_Pa / PA_PER_INHG;
      case 'gauge.oil_p':
        return sensors.oil_Pa / PA_PER_BAR;
      case 'gauge.oil_t':
        return sensors.oil_C;
      case 'gauge.cht':
        return sensors.cht_C;
      case 'gauge.carb':
        return sensors.carb_C;
      case 'gauge.alternator':
        return this.plant.Ia;
      case 'lamp.starter':
        return this.contactor ? 1 : 0;
      case 'lamp.alternator':
        return sensors.alternatorLight ? 1 : 0;
      case 'lamp.low_rotor':
        return sensors.lowRotor ? 1 : 0;
      case 'env.oat':
        return this.plant.env.oat;
      case 'volts':
        return this.controls.master ? this.plant.V : 0;
      case 'control.mags':
        return MAGNETOS.indexOf(this.controls.mags);
    }
    if (name.startsWith('control.')) {
      const value = (this.controls as unknown as Record<string, unknown>)[name.slice(8)];
      return typeof value === 'number' ? value : undefined;
    }
    return readPiston(this.plant, name);
  }
}
