import {
  coldControls,
  coldPistonControls,
  Simulator,
  noPistonFaults,
  PistonPlant,
  setInput,
} from '@rouse/core/simulator';
import { isPiston, type TypeFile, type WatchedType } from '@rouse/core/aircraft';
import { simulatedBrief } from '@rouse/core/brief';
import { DrillFlight, flyAsLearner, type Lesson, marksOf } from '@rouse/core/drill';

/** A digest of every bit of forty seconds of a plant from cold, the same wherever it runs. */
export function digestOf(simulator: NonNullable<TypeFile['simulator']>): string {
  const seen: number[] = [];
  if (isPiston(simulator)) {
    const plant = new PistonPlant(simulator);
    const controls = { ...coldPistonControls(), master: 1, alt: 1, mix: 1, grip: 0.17, primer: 1 };
    const faults = noPistonFaults();
    for (let k = 0; k < 4000; k++) {
      if (k === 300) controls.primer = 0;
      if (k === 600) Object.assign(controls, { mags: 'BOTH', starter: 1 });
      if (k === 1200) Object.assign(controls, { starter: 0, pilotN: 0.48 });
      plant.step(controls, faults, 0.01);
      seen.push(plant.we, plant.Th, plant.V, plant.wet);
    }
  } else {
    const sim = new Simulator(simulator, { noise: true, soc: 0.9 }, 7);
    const controls = coldControls(simulator);
    for (const key of ['battery', 'boost', 'load.base_bus', 'e1.start', 'e1.starter_sw'])
      setInput(sim, controls, key, 1);
    if (sim.apu) for (const key of ['apu.start', 'apu_bleed']) setInput(sim, controls, key, 1);
    if (sim.apu) setInput(sim, controls, 'apu.mode', 'FLY');
    setInput(sim, controls, 'e1.mode', 'IDLE');
    for (let k = 0; k < 2000; k++) {
      if (k === 350) setInput(sim, controls, 'e1.grip', 0.22);
      sim.tick(controls);
      seen.push(sim.sensors[0]!.tot_C, sim.sensors[0]!.ngA_pct, sim.volts, sim.rotor.nr);
    }
  }
  return `${hashOf(Float64Array.from(seen))} ${seen.at(-1)}`;
}

function hashOf(values: Float64Array): string {
  const words = new Uint32Array(values.buffer, values.byteOffset, 2 * values.length);
  let hash = 2166136261;
  for (const word of words) hash = Math.imul(hash ^ word, 16777619);
  return (hash >>> 0).toString(16);
}

/** A whole lesson flown by a learner who does everything right: its journal, its marks, and every bit of its readings. */
export function drillDigestOf(type: WatchedType, lesson: Lesson): string {
  const brief = simulatedBrief(
    type,
    type.standIn.find((p) => p.id === lesson.day)!,
  );
  const flight = new DrillFlight({ type, lesson, seed: 7, brief });
  flyAsLearner(flight, { seed: 7 });
  const flown = flight.flown();
  const columns = flight.trace().columns.map((column) => hashOf(column));
  return JSON.stringify([flown.acts, flown.entries.at(-1), marksOf(flown, null), columns]);
}
