import type { TurbineStart } from '../aircraft/index.ts';
import type { StartRecord, StartState } from './events.ts';
import { idleWindow } from './idle-window.ts';
import type { Milestone } from './milestone.ts';

const finite = (v: number): number | null => (Number.isFinite(v) ? v : null);

/** What a turbine start waits for, in the order in which it usually comes. @param flameFrom_s it burns since then, NaN before */
export function turbineMilestones(
  spec: TurbineStart,
  record: StartRecord,
  flameFrom_s: number,
  state: StartState,
): Milestone[] {
  const { oilPressure, rotor } = spec.channels;
  const [low, high] = idleWindow(spec, record);
  return [
    {
      id: 'light-off',
      title: 'Light-off',
      words: `within ${spec.lightWithin_s} s of fuel`,
      due_s: finite(record.fuelAt_s + spec.lightWithin_s),
      met: Number.isFinite(flameFrom_s),
    },
    ...(oilPressure === undefined
      ? []
      : [
          {
            id: 'oil',
            title: 'Oil pressure',
            words: `${spec.oilFirst_bar} bar within ${spec.oilFirstWithin_s} s of light-off`,
            due_s: finite(flameFrom_s + spec.oilFirstWithin_s),
            met: Number.isFinite(record.oilAt_s),
          },
        ]),
    ...(rotor === undefined || spec.rotorMovingBy_pct === undefined
      ? []
      : [
          {
            id: 'rotor',
            title: 'Rotor turning',
            words: `by ${spec.rotorMovingBy_pct} % Ng`,
            due_s: null,
            met: Number.isFinite(record.rotorAt_s),
          },
        ]),
    {
      id: 'starter',
      title: spec.fuelBy === 'pilot' ? 'Starter off' : 'Starter cut-out',
      words:
        spec.fuelBy === 'pilot'
          ? `at ${spec.starterRelease_pct} % Ng, by hand`
          : `by ${spec.starterRelease_pct} % Ng, on its own`,
      due_s: null,
      met: Number.isFinite(record.selfSustainingAt_s),
    },
    {
      id: 'idle',
      title: 'Idle stable',
      words: `${low} to ${Number(high.toFixed(1))} % for ${spec.idleFor_s} s`,
      due_s: finite(record.starterAt_s + spec.idleWithin_s),
      met: state === 'idle',
    },
  ];
}
