import { bandEdge, type Limit, type Phase, type TypeFile } from '../aircraft/index.ts';
import type { Report } from './finding.ts';

/** phases in which an engine runs: what is watched in one of them is watched in all between */
const RUNNING: readonly Phase[] = ['idle', 'run-up', 'flight'];

/** Limits that leave nothing between them, that no gauge reaches, and that are forgotten in one phase. */
export function auditLimits(type: TypeFile, report: Report): void {
  auditReach(type, report);
  auditCrossing(type, report);
  auditPhases(type, report);
}

const isUpper = (limit: Limit): boolean => 'above' in limit.bands[0]!;

function auditReach(type: TypeFile, report: Report): void {
  type.limits.forEach((limit, i) => {
    const channel = type.channels.find((c) => c.id === limit.channel);
    if (!channel) return;
    const [least, most] = channel.range;
    limit.bands.forEach((band, k) => {
      const edge = bandEdge(band);
      if (isUpper(limit) ? edge >= most : edge <= least)
        report(
          ['limits', i, 'bands', k],
          `${channel.label} cannot be ${isUpper(limit) ? 'above' : 'below'} ${edge}: its gauge ends at ${isUpper(limit) ? most : least}`,
          'correct the limit, or the least and the most of the channel',
        );
    });
  });
}

function auditCrossing(type: TypeFile, report: Report): void {
  for (const channel of new Set(type.limits.map((l) => l.channel)))
    for (const phase of RUNNING) {
      const of = type.limits.flatMap((l, i) => (l.channel === channel && l.phases.includes(phase) ? [{ l, i }] : []));
      const upper = of.filter(({ l }) => isUpper(l)).toSorted((a, b) => bandEdge(a.l.bands[0]!) - bandEdge(b.l.bands[0]!))[0]; // oxfmt-ignore
      const lower = of.filter(({ l }) => !isUpper(l)).toSorted((a, b) => bandEdge(b.l.bands[0]!) - bandEdge(a.l.bands[0]!))[0]; // oxfmt-ignore
      if (!upper || !lower || bandEdge(upper.l.bands[0]!) > bandEdge(lower.l.bands[0]!)) continue;
      report(
        ['limits', upper.i],
        `${upper.l.id} and ${lower.l.id} cross: in the phase ${phase} no reading of ${channel} is inside both`,
        'the upper limit stands above the lower one',
      );
      break;
    }
}

function auditPhases(type: TypeFile, report: Report): void {
  for (const channel of new Set(type.limits.map((l) => l.channel))) {
    const has = RUNNING.map((phase) => type.limits.some((l) => l.channel === channel && l.phases.includes(phase)));
    const [first, last] = [has.indexOf(true), has.lastIndexOf(true)];
    const hole = has.findIndex((h, i) => !h && i > first && i < last);
    if (first < 0 || hole < 0) continue;
    const i = type.limits.findIndex((l) => l.channel === channel);
    report(
      ['limits', i, 'phases'],
      `${channel} has limits in ${RUNNING[first]} and in ${RUNNING[last]}, and none in ${RUNNING[hole]}`,
      `add ${RUNNING[hole]} to the phases of one of them`,
    );
  }
}
