import { type Condition, type Item, sayCondition, stagesOf, type TypeFile } from '../aircraft/index.ts';
import type { Finding, Report } from './finding.ts';
import { outcomesOf } from './satisfiable.ts';

type Outcomes = ReturnType<typeof outcomesOf>;
/** what was worked out of a condition with these channels: after a key of an editor nearly all of them are the same */
const known = new WeakMap<Condition, { channels: TypeFile['channels']; outcomes: Outcomes }>();

function knownOutcomes(condition: Condition, channels: TypeFile['channels']): Outcomes {
  const before = known.get(condition);
  if (before?.channels === channels) return before.outcomes;
  const outcomes = outcomesOf(condition, channels);
  known.set(condition, { channels, outcomes });
  return outcomes;
}

/** Conditions that no reading can meet, and those that no reading can fail. */
export function auditConditions(type: TypeFile, report: Report): void {
  const judge = (path: Finding['path'], condition: Condition | undefined): void => {
    const outcomes = condition && knownOutcomes(condition, type.channels);
    if (!outcomes || (outcomes.met && outcomes.failed)) return;
    const words = sayCondition(condition, type.channels, true);
    if (!outcomes.met)
      report(path, `this can never be: ${words}`, 'look at the figures, and at the least and the most of the channel');
    else if (!outcomes.failed) report(path, `this is always so: ${words}`, 'a check that cannot fail checks nothing');
  };
  type.legs.forEach((leg, i) => judge(['legs', i, 'begins'], leg.begins));
  type.captions.list.forEach((caption, i) => judge(['captions', 'list', i, 'lit'], caption.lit));
  type.startWatches.forEach((watch, i) =>
    watch.gates.forEach((gate, k) => judge(['startWatches', i, 'gates', k, 'condition'], gate.condition)),
  );
  for (const [path, item] of itemsOf(type)) judgeItem(item, path, judge);
}

/** Items of the list and of the aborts, each with its way down the type. */
export function itemsOf(type: TypeFile): [Finding['path'], Item][] {
  return [
    ...type.items.map((item, i): [Finding['path'], Item] => [['items', i], item]),
    ...Object.entries(type.aborts).flatMap(([reason, plan]) =>
      plan.actions.map((item, i): [Finding['path'], Item] => [['aborts', reason, 'actions', i], item]),
    ),
  ];
}

function judgeItem(
  item: Item,
  path: Finding['path'],
  judge: (path: Finding['path'], condition: Condition | undefined) => void,
): void {
  if (item.kind === 'wait') judge([...path, 'until'], item.until);
  if ('expect' in item) judge([...path, 'expect'], item.expect);
  const stages = item.kind === 'measure' ? [...path, 'trace', 'stages'] : [...path, item.kind === 'watch' ? 'moments' : 'stages']; // oxfmt-ignore
  stagesOf(item).forEach((stage, i) => {
    judge([...stages, i, 'expect'], stage.expect);
    stage.lateWhen?.forEach((late, k) => judge([...stages, i, 'lateWhen', k, 'when'], late.when));
  });
  if (item.kind !== 'measure' || !item.trace) return;
  item.trace.stops?.forEach((stop, i) => judge([...path, 'trace', 'stops', i, 'when'], stop.when));
  item.trace.figures.forEach((figure, i) => {
    if (figure.of === 'value-when') judge([...path, 'trace', 'figures', i, 'when'], figure.when);
  });
}
