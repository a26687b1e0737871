import { chartCheck, type ChartIssueCode } from '../chart/index.ts';
import { attempt, isRefusal } from '../quantity/index.ts';
import { checkCockpit } from './cockpit.ts';
import { channelsOf } from './condition.ts';
import { bandEdge } from './limits.ts';
import { stagesOf } from './item-facts.ts';
import type { Item } from './procedure-items.ts';
import { causesOfCheck, channelsOfCheck, stagesNamed, type TraceCheck } from './trace-check.ts';
import type { TypeFile } from './type-shape.ts';

/** How the parts of a type hang together: names that are there, bands and charts in order, lists that can be worked. */
export function checkRelations(type: TypeFile, report: Report): void {
  const channels = new Set(type.channels.map((c) => c.id));
  const known = (id: string, path: (string | number)[]): void => {
    if (!channels.has(id))
      report(path, `there is no channel named ${id}; add it to channels or name one that is there`);
  };
  unique(
    type.channels.map((c) => c.id),
    ['channels'],
    report,
  );
  unique(
    [...type.items, ...Object.values(type.aborts).flatMap((a) => a.actions)].map((i) => i.id),
    ['items'],
    report,
  );
  for (const [role, ids] of Object.entries<string | string[] | undefined>(type.roles))
    for (const id of [ids ?? []].flat()) known(id, ['roles', role]);
  type.room.forEach((id, i) => known(id, ['room', i]));
  type.limits.forEach((limit, i) => {
    known(limit.channel, ['limits', i, 'channel']);
    if (limit.notWhile) known(limit.notWhile.channel, ['limits', i, 'notWhile', 'channel']);
    const sides = new Set(limit.bands.map((b) => ('above' in b ? 1 : -1)));
    if (sides.size > 1)
      report(['limits', i, 'bands'], 'bands of one limit stand all above or all below; make two limits of them');
    const sign = 'above' in limit.bands[0]! ? 1 : -1;
    limit.bands.forEach((band, k) => {
      const milder = limit.bands[k - 1];
      if (milder && sign * bandEdge(band) <= sign * bandEdge(milder))
        report(['limits', i, 'bands', k], 'the bands of a limit go from mild to severe; put them in that order');
    });
  });
  type.startWatches.forEach((w, i) => {
    for (const id of w.again ?? [])
      if (!type.items.some((item) => item.id === id))
        report(['startWatches', i, 'again'], `there is no item named ${id}; name one of the list`);
    for (const [role, id] of Object.entries<string | undefined>(w.channels))
      if (id !== undefined) known(id, ['startWatches', i, 'channels', role]);
    known(w.starter.channel, ['startWatches', i, 'starter', 'channel']);
    w.gates.forEach((g, k) =>
      channelsOf(g.condition).forEach((id) => known(id, ['startWatches', i, 'gates', k, 'condition'])),
    );
  });
  type.ratings?.ledgers.forEach((ledger, i) =>
    ledger.measures.forEach((measure, k) => {
      const path = ['ratings', 'ledgers', i, 'measures', k];
      measure.channels.forEach((id) => known(id, path));
      if (measure.channels.length !== type.engines.length)
        report(path, 'a rating is measured on every engine; name one channel for each');
      const { edges } = measure;
      if (edges && (edges.length !== ledger.ratings.length + 1 || edges.some((e, n) => n > 0 && e <= edges[n - 1]!)))
        report(
          [...path, 'edges'],
          'the edges of a rating do not fit; give one rising edge for each rating, and one for the maximum',
        );
    }),
  );
  known(type.captions.channel, ['captions', 'channel']);
  type.captions.list.forEach((c, i) => channelsOf(c.lit).forEach((id) => known(id, ['captions', 'list', i, 'lit'])));
  type.transducers.forEach((t, i) => known(t.channel, ['transducers', i, 'channel']));
  checkCockpit(type.cockpit ?? [], report);
  checkCharts(type, report);
  checkProcedure(type, known, report);
}

export type Report = (path: (string | number)[], message: string) => void;

const CHART_ISSUES: Readonly<Record<ChartIssueCode, string>> = {
  NOT_POSITIVE: 'power is nought or less here; leave the field empty where the chart has nothing',
  RISES_WITH_ALTITUDE: 'more power than at the altitude below; look at both figures',
  RISES_WITH_OAT: 'more power than in colder air; look at both figures',
  HOLE: 'an empty field stands before this figure; fill it in, or leave both empty',
  BLANK_BELOW_VALUE: 'the field of the altitude below is empty; fill it in, or leave both empty',
};

/** A power table that rises where it may not is refused when it is loaded. */
function checkCharts(type: TypeFile, report: Report): void {
  const { chart, hover, engine, piston } = type.performance;
  for (const rating of ['TOP', 'MCP'] as const) {
    const found = attempt(() => chartCheck(chart[rating], { manifoldPressure: chart.unit === 'inHg' }));
    if (isRefusal(found))
      report(
        ['performance', 'chart', rating, found.field],
        'altitudes or temperatures do not rise, or a row is not whole; put them in order',
      );
    else
      for (const { code, i, j } of found.issues)
        report(['performance', 'chart', rating, 'values', i, j], CHART_ISSUES[code]);
  }
  const powers = [engine, piston].filter((p) => p !== undefined).length;
  if (powers !== (hover === undefined ? 0 : 1))
    report(
      ['performance'],
      'a type has a hover model with the power of either turbines or pistons, or none of them; give hover, and engine or piston',
    );
}

type Answers = ReadonlyMap<string, ReadonlySet<string>>;

function checkChoices(type: TypeFile, answers: Answers, report: Report): void {
  type.choices.forEach((c, i) => {
    if (!answers.get(c.id)!.has(c.usual))
      report(['choices', i, 'usual'], `${c.usual} is none of the alternatives of ${c.id}; name one of them`);
    if (c.when && !answers.get(c.when.choice)?.has(c.when.is))
      report(
        ['choices', i, 'when'],
        `${c.when.is} is no answer to a choice named ${c.when.choice}; name one that is there`,
      );
  });
  unique(
    type.choices.map((c) => c.id),
    ['choices'],
    report,
  );
}

/** What an item refers to stands in the list, and what it waits for stands before it. */
function checkOrder(type: TypeFile, legs: ReadonlySet<string>, ids: ReadonlySet<string>, report: Report): void {
  const seen = new Set<string>();
  type.items.forEach((item, i) => {
    if (!legs.has(item.leg)) report(['items', i, 'leg'], `there is no leg named ${item.leg}; add it to legs`);
    for (const need of item.needs ?? []) {
      if (!seen.has(need))
        report(['items', i, 'needs'], `no item named ${need} stands before this one; move it up, or take it off needs`);
    }
    if (item.deadline && !seen.has(item.deadline.since))
      report(
        ['items', i, 'deadline'],
        `no item named ${item.deadline.since} stands before this one; name one that does`,
      );
    if (item.kind === 'set' && item.opens && !ids.has(item.opens.closedBy))
      report(['items', i, 'opens'], `there is no item named ${item.opens.closedBy}; name the one that closes this`);
    seen.add(item.id);
  });
}

function checkProcedure(type: TypeFile, known: (id: string, path: (string | number)[]) => void, report: Report): void {
  const watches = new Set([...type.startWatches.map((w) => w.id), ...(type.runUpWatch ? [type.runUpWatch.id] : [])]);
  const captions = new Set(type.captions.list.map((c) => c.id));
  const legs = new Set(type.legs.map((l) => l.id));
  const ids = new Set(type.items.map((i) => i.id));
  const answers = new Map(type.choices.map((c) => [c.id, new Set(c.alternatives.map((a) => a.id))]));
  const decisions = new Map(
    type.items.flatMap((i) => (i.kind === 'decide' ? [[i.id, new Set(i.alternatives.map((a) => a.id))] as const] : [])),
  );
  checkChoices(type, answers, report);
  const checkWhen = (item: Item, path: (string | number)[]): void => {
    for (const when of item.when ?? []) {
      if ('check' in when) {
        const item = type.items.find((i) => i.id === when.check);
        const causes = item?.kind === 'measure' && item.trace ? causesOfCheck(item.trace) : new Set();
        for (const cause of when.found)
          if (!causes.has(cause))
            report(
              [...path, 'when'],
              `${cause} is nothing that a check named ${when.check} finds; name one of its causes`,
            );
        continue;
      }
      const [name, of] = 'choice' in when ? [when.choice, answers] : [when.decision, decisions];
      const alternatives = of.get(name);
      if (!alternatives)
        report([...path, 'when'], `there is no choice or decision named ${name}; name one that is there`);
      else
        for (const is of [when.is].flat())
          if (!alternatives.has(is))
            report([...path, 'when'], `${is} is none of the alternatives of ${name}; name one of them`);
    }
  };
  const checkItem = (item: Item, path: (string | number)[]): void => {
    const conditions = [
      ...(item.kind === 'wait' ? [item.until] : []),
      ...('expect' in item && item.expect ? [item.expect] : []),
      ...stagesOf(item).flatMap((s) => (s.expect ? [s.expect] : [])),
    ];
    for (const condition of conditions) channelsOf(condition).forEach((id) => known(id, path));
    if (item.kind === 'watch' && !watches.has(item.watch) && !item.moments)
      report([...path, 'watch'], `there is no watch named ${item.watch}; name one that is there, or give moments`);
    if (item.kind === 'test' && !item.stages.some((s) => s.restores))
      report([...path, 'stages'], 'this test puts nothing back; mark the stage that does with restores: true');
    if (item.kind === 'decide' && item.rule)
      for (const id of [item.rule.expected, item.rule.otherwise])
        if (!item.alternatives.some((a) => a.id === id))
          report([...path, 'rule'], `${id} is none of the alternatives of ${item.id}; name one of them`);
    if (item.kind === 'measure' && item.trace) checkTrace(type, item.trace, [...path, 'trace'], known, report);
    if (item.kind === 'count') {
      known(item.channel, [...path, 'channel']);
      for (const c of item.captions)
        if (!captions.has(c))
          report([...path, 'captions'], `there is no caption named ${c}; add it to captions or name one that is there`);
    }
    checkWhen(item, path);
  };
  type.items.forEach((item, i) => checkItem(item, ['items', i]));
  checkOrder(type, legs, ids, report);
  for (const [reason, plan] of Object.entries(type.aborts)) {
    plan.actions.forEach((item, i) => checkItem(item, ['aborts', reason, 'actions', i]));
  }
  type.legs.forEach((leg, i) => {
    if (leg.begins) channelsOf(leg.begins).forEach((id) => known(id, ['legs', i, 'begins']));
    else if (type.legs[i - 1]?.begins)
      report(['legs', i], 'a leg that is worked at once stands after one that waits to be begun; put it before');
    else if (type.legs[i - 1]?.gate)
      report(
        ['legs', i],
        'a leg behind the last look is on the list from the beginning; give it begins: with what is seen when it begins',
      );
  });
  type.turnRound?.items.forEach((id, i) => {
    if (!ids.has(id)) report(['turnRound', 'items', i], `there is no item named ${id}; name one of the list`);
  });
}

/** A check names stages, channels, figures and loads that are there, and puts back what it opens. */
function checkTrace(
  type: TypeFile,
  check: TraceCheck,
  path: (string | number)[],
  known: (id: string, path: (string | number)[]) => void,
  report: Report,
): void {
  channelsOfCheck(check).forEach((id) => known(id, path));
  const stages = new Set(check.stages.map((s) => s.id));
  for (const id of stagesNamed(check))
    if (!stages.has(id)) report([...path, 'stages'], `there is no stage named ${id}; give one that id`);
  const figures = new Set(check.figures.map((f) => f.id));
  check.figures.forEach((figure, i) => {
    for (const id of figure.of === 'difference' ? figure.between : [])
      if (!figures.has(id)) report([...path, 'figures', i], `there is no figure named ${id}; name one of this check`);
    if (figure.of === 'load' && !type.electricalLoads.some((l) => l.id === figure.load))
      report([...path, 'figures', i, 'load'], `there is no electrical load named ${figure.load}; add it to the loads`);
  });
  if (check.opens && !check.stages.some((s) => s.restores))
    report([...path, 'stages'], 'this check puts nothing back; mark the stage that does with restores: true');
}

function unique(ids: string[], path: string[], report: (path: string[], message: string) => void): void {
  const seen = new Set<string>();
  for (const id of ids) {
    if (seen.has(id)) report(path, `${id} is there twice; give one of them another id`);
    seen.add(id);
  }
}
