import type { RunSummary } from '@rouse/core/contract';
import type { RunRow } from '../db/runs.ts';

export function summaryOf(run: RunRow): RunSummary {
  return {
    run: run.runId,
    openedAt: run.openedAt.toISOString(),
    closedAt: run.closedAt?.toISOString() ?? null,
    pilot: run.pilot,
    outcome: run.outcome,
    source: run.source,
    conditions: run.conditions,
  };
}
