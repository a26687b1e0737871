import { needWatched, type StandInAction, type StandInPreset, type WatchedType } from '@rouse/core/aircraft';
import { conditionsOf, type PistonConditions, type Conditions, SimulatedCockpit } from '@rouse/core/simulator';
import { Watch, type WatchEvent } from '@rouse/core/watch';
import { typeOf } from '../fleet.ts';

type Fault = StandInPreset['faults'][number];

export interface Worked {
  type: WatchedType;
  watch: Watch;
  cockpit: SimulatedCockpit;
  events: WatchEvent[];
}

/**
 * An aircraft of the fleet in hands that only press: everything before the start as its list says, then the start of
 * `item`, watched frame by frame.
 */
export function workStart(
  id: string,
  options: {
    item?: string;
    conditions?: Conditions | PistonConditions;
    faults?: Fault[];
    /** instead of what the list moves for the start */
    start?: StandInAction[];
    /** what else is moved, and when, s */
    moves?: [number, StandInAction][];
    seconds?: number;
  } = {},
): Worked {
  const type = needWatched(typeOf(id));
  const mild = type.standIn.find((p) => p.id === 'mild')!;
  const cockpit = new SimulatedCockpit(type, options.conditions ?? conditionsOf(type, mild), options.faults ?? [], 5);
  const events: WatchEvent[] = [];
  const watch = new Watch(type, {}, (e) => events.push(e));
  const item = options.item ?? 'start-engine';
  for (const before of type.items) {
    if (before.leg === 'start' || before.id.startsWith('prime-throttle') || before.kind === 'watch') continue;
    if (before.id === 'purge' || before.leg !== 'before-start') continue;
    for (const action of before.standIn ?? []) cockpit.move(action);
  }
  const start = options.start ?? type.items.find((i) => i.id === item)!.standIn!;
  const moves: [number, StandInAction][] = [
    ...start.map((a): [number, StandInAction] => [START_S, a]),
    ...(options.moves ?? []),
  ];
  for (let k = 1; k <= (options.seconds ?? 70) * 50; k++) {
    const t_s = k / 50;
    for (const [at_s, action] of moves) if (Math.abs(at_s - t_s) < 0.001) cockpit.move(action);
    watch.step(t_s, cockpit.tick());
  }
  return { type, watch, cockpit, events };
}

/** when the start is pressed, s */
export const START_S = 7;

export const abortsOf = ({ events }: Worked): Extract<WatchEvent, { kind: 'abort' }>[] =>
  events.filter((e) => e.kind === 'abort');
export const codesOf = ({ events }: Worked): string[] => events.flatMap((e) => (e.kind === 'cue' ? [e.code] : []));
export const raisedIn = ({ events }: Worked): string[] =>
  events.flatMap((e) => (e.kind === 'cue' && e.severity !== 'call' ? [e.code] : []));
