// Makes performance.yaml and the charts of the types that are named: node scripts/fit-performance.mjs aircraft/skerry-s7 …
import path from 'node:path';
import { shippedType } from '@rouse/aircraft';
import plants from './turbine-plants.json' with { type: 'json' };
import { assuranceOf } from './assurance.ts';
import type { Plant } from './plant.ts';
import { pistonPerformance } from './piston.ts';
import { type Shape, turbinePerformance } from './turbine.ts';
import { type Performance, writePerformance } from './write.ts';

/** What the plants do not say: blades, tail, drag and speeds of the airframes. */
const SHAPES: Record<string, Omit<Shape, 'mtow_kg' | 'empty_kg'>> = {
  C5: {
    nb: 2,
    tail: { R_m: 0.82, nb: 2, chord_m: 0.14, vtip_mps: 195, arm_m: 5.8, blockage: 0.06 },
    flatplate_m2: 0.8,
    vy_kt: 52,
    vtoss_kt: 35,
  },
  S7: {
    nb: 3,
    tail: { R_m: 0.93, nb: 2, chord_m: 0.18, vtip_mps: 200, arm_m: 6.3, blockage: 0.07 },
    flatplate_m2: 0.95,
    vy_kt: 60,
    vtoss_kt: 40,
  },
  H9: {
    nb: 4,
    tail: { R_m: 0.98, nb: 2, chord_m: 0.22, vtip_mps: 205, arm_m: 6.2, blockage: 0.08 },
    flatplate_m2: 1.15,
    vy_kt: 65,
    vtoss_kt: 40,
  },
  X14: {
    nb: 5,
    tail: { R_m: 1.75, nb: 5, chord_m: 0.24, vtip_mps: 210, arm_m: 10.6, blockage: 0.1 },
    flatplate_m2: 3.1,
    vy_kt: 80,
    vtoss_kt: 50,
  },
};

/** The cushion that the simulator flies on. */
const FLOWN_GROUND_EFFECT = 'cb';

for (const dir of process.argv.slice(2)) {
  const type = shippedType(process.cwd(), path.basename(dir));
  if (!type?.simulator) throw new Error(`${dir} is no folder of a type with a simulator`);
  const { mtow_kg, empty_kg } = type.loading;
  console.log(type.name);
  const say = (line: string): void => console.log(line);
  const shape = SHAPES[type.id];
  const performance = shape
    ? turbinePerformance((plants as unknown as Record<string, Plant>)[type.id]!, { ...shape, mtow_kg, empty_kg }, say)
    : pistonPerformance(mtow_kg, empty_kg, say);
  performance.hover.ge_model = FLOWN_GROUND_EFFECT;
  if (shape) performance.engine.assurance = assuranceOf(type.simulator, empty_kg, mtow_kg);
  writePerformance(dir, performance as Performance);
}
