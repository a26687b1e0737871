import { isWatched, type StandInAction, stagesOf, type TypeFile, type WatchedType } from '../aircraft/index.ts';
import { conditionsOf, createSimulator, type Simulation } from '../simulator/index.ts';
import { itemsOf } from './conditions.ts';
import type { Finding, Report } from './finding.ts';

/** Names that the simulated aircraft has to know: signals of channels, controls that hands move, faults and states of conditions. */
export function auditNames(type: TypeFile, report: Report): void {
  if (!isWatched(type)) return;
  const simulation = createSimulator(type, {}, 1);
  const signal = (path: Finding['path'], name: string): void => {
    if (simulation.signal(name) === undefined)
      report(
        path,
        `the simulator has no signal named ${name}`,
        'name one of docs/formats.md, or leave the field empty',
      );
  };
  type.channels.forEach((c, i) => {
    // the lamps of the panel are lit by the type itself
    if (c.simulated && c.id !== type.captions.channel && !c.simulated.signal.startsWith('panel.'))
      signal(['channels', i, 'simulated', 'signal'], c.simulated.signal);
  });
  for (const [path, actions] of actionsOf(type))
    for (const action of actions) {
      auditMove(simulation, action, path, report);
      if (action.when) signal(path, action.when.sig);
    }
  type.cockpit?.forEach(({ moves, positions, hand }, i) => {
    for (const control of moves)
      for (const { to } of positions) auditMove(simulation, { control, to }, ['cockpit', i, 'moves'], report);
    if (hand !== undefined) auditMove(simulation, { control: hand, to: 1 }, ['cockpit', i, 'hand'], report);
  });
  auditPresets(type, signal, report);
}

function actionsOf(type: TypeFile): [Finding['path'], readonly StandInAction[]][] {
  return [
    ...type.legs.map((leg, i): [Finding['path'], readonly StandInAction[]] => [['legs', i, 'standIn'], leg.standIn ?? []]), // oxfmt-ignore
    ...itemsOf(type).flatMap(([path, item]): [Finding['path'], readonly StandInAction[]][] => [
      [[...path, 'standIn'], item.standIn ?? []],
      ...stagesOf(item).map((s): [Finding['path'], readonly StandInAction[]] => [path, s.standIn ?? []]),
    ]),
  ];
}

function auditMove(
  simulation: Simulation,
  { control, to }: StandInAction,
  path: Finding['path'],
  report: Report,
): void {
  try {
    simulation.step({ [control]: to }, 0);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    report(path, `the simulated cockpit has no control named ${control}`, 'name one of docs/formats.md');
  }
}

/** What was found of the conditions of a stand-in with these parameters, by its way down them. */
const tried = new WeakMap<object, { simulator: unknown; found: Finding[] }>();

/** Conditions are tried each on an aircraft of its own, and once: states that it begins with, faults that strike. */
function auditPresets(type: WatchedType, signal: (path: Finding['path'], name: string) => void, report: Report): void {
  type.standIn.forEach((preset, i) => {
    const before = tried.get(preset);
    const found = before?.simulator === type.simulator ? before.found : tryPreset(type, preset);
    tried.set(preset, { simulator: type.simulator, found });
    for (const { path, message, remedy } of found) report(['standIn', i, ...path], message, remedy);
    preset.faults.forEach((fault, k) => {
      if (fault.when) signal(['standIn', i, 'faults', k, 'when'], fault.when.sig);
    });
  });
}

function tryPreset(type: WatchedType, preset: WatchedType['standIn'][number]): Finding[] {
  const found: Finding[] = [];
  const tryIt = (path: Finding['path'], work: (simulation: Simulation) => void): void => {
    try {
      work(createSimulator(type, conditionsOf(type, preset), 1));
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      found.push({ path, message: error.message, remedy: 'name one of docs/formats.md' });
    }
  };
  tryIt(['init'], () => undefined);
  preset.faults.forEach((fault, k) => tryIt(['faults', k, 'set'], (simulation) => simulation.step(fault.set, 0)));
  return found;
}
