import { coldControls, createSimulator, setInput } from '@rouse/core/simulator';
import { best, type Line, skerry } from './measure.ts';

const SIMULATED_S = 600;

/** One Skerry S7 from cold through a start to idle and on, sensors with noise, on one core. */
export function simulator(): Line {
  const seconds = best(5, () => {
    const sim = createSimulator(skerry.simulator, { noise: true }, 1);
    const controls = coldControls(skerry.simulator);
    for (const key of ['battery', 'boost', 'load.base_bus', 'e1.start']) setInput(sim, controls, key, 1);
    setInput(sim, controls, 'e1.mode', 'IDLE');
    for (let k = 0; k < SIMULATED_S * 50; k++) {
      if (k === 2000) setInput(sim, controls, 'e1.gen', 1);
      if (k === 5000) setInput(sim, controls, 'e1.mode', 'FLY');
      sim.tick(controls);
    }
  });
  return {
    name: 'simulator: S7 with sensors, 200 Hz',
    value: SIMULATED_S / seconds,
    unit: 'x real time',
    wanted: 'at least',
    target: 2000,
  };
}
