import type { RunsPage } from '@rouse/core/contract';
import { DEMO } from '../server/src/demo/identity.ts';
import { Caller } from '../tests/caller.ts';
import { AIRCRAFT, askLog, askToday, fillOperator, timed } from './large-operator.ts';
import { type Line, many, share } from './measure.ts';
import { startPrograms } from './programs.ts';

const RUNS = many(100_000, 600);
const ASKED = many(200, 8);
const REPORTS = many(20, 2);

/** What a large operator waits for: Today, the log of years, the report of a run. */
export async function log(): Promise<Line[]> {
  const programs = await startPrograms({ standIn: false, filled: (owner) => fillOperator(owner, RUNS) });
  try {
    const call = new Caller(programs.base);
    return [await today(call), await filters(call), ...(await reports(call))];
  } finally {
    await programs.stop();
  }
}

async function today(call: Caller): Promise<Line> {
  const { taken, cold_ms, whole_s } = await askToday(call, ASKED);
  return {
    name: `log: Today with ${AIRCRAFT} aircraft, p95`,
    value: share(taken, 0.95),
    unit: 'ms',
    wanted: 'at most',
    target: 100,
    remark: `median ${share(taken, 0.5).toFixed(0)} ms; the first after a start of the server ${cold_ms.toFixed(0)} ms, with trends and day of all after ${whole_s.toFixed(1)} s`,
  };
}

async function filters(call: Caller): Promise<Line> {
  const { taken, each } = await askLog(call, ASKED);
  return {
    name: `log: a page of a filter over ${RUNS} runs, p95`,
    value: share(taken, 0.95),
    unit: 'ms',
    wanted: 'at most',
    target: 100,
    remark: `medians: ${each.join(', ')} ms`,
  };
}

/** The report of the last run of a flown tail, as the page asks for it. */
async function reports(call: Caller): Promise<Line[]> {
  const { runs } = await call.get<RunsPage>(`/log/runs?tail=${DEMO.tail}`);
  const sizes_kB: number[] = [];
  const taken = await timed(REPORTS, async () => {
    const answer = await call.fetch(`/runs/${runs[0]!.run}/report.pdf`);
    if (!answer.ok) throw new Error(`the report: ${answer.status} ${await answer.text()}`);
    sizes_kB.push((await answer.arrayBuffer()).byteLength / 1000);
  });
  return [
    {
      name: 'log: the report of a run, p95',
      value: share(taken, 0.95),
      unit: 'ms',
      wanted: 'at most',
      target: 1500,
      remark: `the first ${taken[0]!.toFixed(0)} ms, median ${share(taken, 0.5).toFixed(0)} ms`,
    },
    {
      name: 'log: the report of a run',
      value: Math.max(...sizes_kB),
      unit: 'kB',
      wanted: 'at most',
      target: 400,
    },
  ];
}
