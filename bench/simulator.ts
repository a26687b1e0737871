import { isPiston, type PistonParameters, type SimulatorParameters } from '@rouse/core/aircraft';
import {
  coldControls,
  coldPistonControls,
  Simulator,
  noPistonFaults,
  PistonPlant,
  setInput,
} from '@rouse/core/simulator';
import { compiledPiston } from './compiled/piston.ts';
import { compiledTurbine } from './compiled/turbine.ts';
import { types } from '../tests/skerry.ts';
import { best, type Line, many } from './measure.ts';

const SIMULATED_S = many(600, 120);

/** Each plant from cold through a start to idle and on, sensors with noise, on one core. */
export function simulator(): Line[] {
  const compiledT2 = compiledPiston(parametersOf('T2') as PistonParameters);
  const compiledS7 = compiledTurbine('S7', parametersOf('S7') as SimulatorParameters);
  return [
    ...(compiledT2 ? [compiledT2] : []),
    ...(compiledS7 ? [compiledS7] : []),
    line('T2, 100 Hz', 2000, piston(parametersOf('T2') as PistonParameters)),
    ...(
      [
        ['C5', 2000],
        ['S7', 2000],
        ['H9', 1000],
        ['X14', 1000],
      ] as const
    ).map(([id, target]) =>
      line(`${id} with sensors, 200 Hz`, target, turbine(parametersOf(id) as SimulatorParameters)),
    ),
  ];
}

function parametersOf(id: string): SimulatorParameters | PistonParameters {
  return types.find((t) => t.id === id)!.simulator!;
}

function turbine(parameters: SimulatorParameters): () => void {
  if (isPiston(parameters)) throw new Error('not a turbine');
  return () => {
    const sim = new Simulator(parameters, { noise: true }, 1);
    const controls = coldControls(parameters);
    const set = (keys: string[], value: number | string): void => {
      for (const key of keys) setInput(sim, controls, key, value);
    };
    const engines = sim.engines.map((_, i) => `e${i + 1}`);
    set(['battery', 'boost', 'load.base_bus'], 1);
    if (sim.apu) {
      set(['apu.mode'], 'FLY');
      set(['apu.start', 'apu_bleed'], 1);
    }
    for (let k = 0; k < SIMULATED_S * 50; k++) {
      engines.forEach((e, i) => {
        if (k === 1500 * (i + 1)) {
          set([`${e}.mode`], 'IDLE');
          set([`${e}.start`, `${e}.starter_sw`], 1);
        }
        if (k === 1500 * (i + 1) + 400) set([`${e}.grip`], 0.22);
        if (k === 1500 * (i + 1) + 1400) set([`${e}.gen`], 1);
        if (k === 8000) set([`${e}.mode`], 'FLY');
      });
      sim.tick(controls);
    }
  };
}

function piston(parameters: PistonParameters): () => void {
  return () => {
    const plant = new PistonPlant(parameters);
    const controls = { ...coldPistonControls(), master: 1, alt: 1, mix: 1, grip: 0.17, primer: 1 };
    const faults = noPistonFaults();
    for (let k = 0; k < SIMULATED_S * 100; k++) {
      if (k === 300) controls.primer = 0;
      if (k === 600) Object.assign(controls, { mags: 'BOTH', starter: 1 });
      if (k === 1200) Object.assign(controls, { starter: 0, pilotN: 0.48 });
      if (k === 3000) controls.clutch = 1;
      plant.step(controls, faults, 0.01);
    }
  };
}

function line(what: string, target: number, work: () => void): Line {
  return {
    name: `simulator: ${what}`,
    value: SIMULATED_S / best(5, work),
    unit: 'x real time',
    wanted: 'at least',
    target,
  };
}
