import { needWatched } from '@rouse/core/aircraft';
import { NormalSource } from '@rouse/core/simulator';
import { figure, flyCheck, RUNNING, warm } from '../core/tests/checks/fly-check.ts';
import { typeOf } from '../core/tests/fleet.ts';
import { many, type Line } from './measure.ts';

const DAYS = many(60, 4);
const LOADS = ['pitot', 'landing-light', 'blower'] as const;
const NAMES = { pitot: 'pitot_heat', 'landing-light': 'landing_light', blower: 'cabin_blower' } as const;

/** What the checks measure, against what the simulator knows, on days drawn by chance, with the noise of the gauges. */
export function checks(): Line[] {
  return [magnetoDrop(), loadStep()];
}

/** Drop as the protocol scores it (docs/piston.md 6), read at 20 Hz. */
function magnetoDrop(): Line {
  const chance = new NormalSource(11);
  const errors: number[] = [];
  for (let day = 0; day < DAYS; day++) {
    const oat = 10 + 7 * chance.normal();
    const env = { oat, dew: oat - 6 - 6 * chance.uniform(), pa_ft: 600 * chance.uniform() };
    const speed = day % 2 === 0 ? 'low' : 'high';
    const n = speed === 'low' ? 0.78 : 0.88;
    const faults = [{}, { retardL: 10 }, { 'plug.2': 0.15 }, {}][day % 4]!;
    const before = [...RUNNING, { control: 'pilotN', to: n }];
    const flown = flyCheck('T2', `magnetos-${speed}-left-first`, { conditions: { env, init: warm(n) }, before, settle_s: 25, faults, seed: day, hz: 20 }); // oxfmt-ignore
    const truthAt = (t_s: number): number => flown.truth.findLast((x) => x.t_s <= t_s + 1e-6)!.n;
    for (const [side, stage] of [['left', 2], ['right', 5]] as const) {
      const value = figure(flown, `drop-${side}`);
      const at_s = flown.machine.marks[stage]!;
      if (value !== null) errors.push(Math.abs(value - (truthAt(at_s - 0.06) - truthAt(at_s + 4))));
    }
  } // oxfmt-ignore
  errors.sort((a, b) => a - b);
  return {
    name: 'magneto drop against the truth at 20 Hz, worst',
    value: 1000 * errors[errors.length - 1]!,
    unit: 'thousandths of a per cent',
    wanted: 'at most',
    target: 200,
    remark: `median ${(1000 * errors[errors.length >> 1]!).toFixed(0)}, p90 ${(1000 * errors[Math.floor(0.9 * errors.length)]!).toFixed(0)}, ${errors.length} drops`,
  };
}

/** The current of a switch against what its resistance draws at the volts of that moment. */
function loadStep(): Line {
  const chance = new NormalSource(12);
  let worst = 0;
  let count = 0;
  for (const id of ['C5', 'S7', 'H9', 'X14'])
    for (let day = 0; day < 6; day++) {
      const type = needWatched(typeOf(id));
      const engines = type.engines.flatMap(({ id: e }) => [
        { control: `e${e}.gen`, to: 1 },
        type.engines[0]!.control === 'digital'
          ? { control: `e${e}.mode`, to: 'FLY' }
          : { control: `e${e}.grip`, to: 1 },
      ]);
      const flown = flyCheck(id, 'load-steps', {
        conditions: {
          running: { coll: 0 },
          env: { oat_c: 10 + 8 * chance.normal() },
          soc: 0.6 + 0.3 * chance.uniform(),
        },
        before: [
          { control: 'battery', to: 1 },
          { control: 'boost', to: 1 },
          { control: 'load.base_bus', to: 1 },
          ...engines,
        ],
        settle_s: 15 + 60 * chance.uniform(),
        seed: day,
      });
      const volts = Number(flown.cockpit.simulation.signal('volts'));
      for (const load of LOADS) {
        const nominal = type.electricalLoads.find((l) => l.id === NAMES[load])!.amps;
        const truth = (nominal * volts) / 28;
        const off = Math.abs(figure(flown, load)! - truth);
        worst = Math.max(worst, off / Math.max(0.5, 0.05 * truth));
        count++;
      }
    }
  return {
    name: 'load step against the truth, worst, of 0.5 A or 5 %',
    value: 100 * worst,
    unit: '%',
    wanted: 'at most',
    target: 100,
    remark: `${count} steps on four types`,
  };
}
