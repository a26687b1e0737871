import type { RunDetail } from '@rouse/core/contract';
import { usualFigures } from '@rouse/core/health';
import type { Request } from 'express';
import { z } from 'zod';
import { listPassedChecks, PAST_CHECKS } from '../db/checks.ts';
import { listEntries } from '../db/entries.ts';
import type { Tx } from '../db/pool.ts';
import type { RunRow } from '../db/runs.ts';
import { listWaits } from '../db/waits.ts';
import { PAST_WAITS } from '../live/live-aircraft.ts';
import type { OpenRun } from '../live/open-run.ts';
import { parse } from './parse.ts';
import { summaryOf } from './summary.ts';

const idSchema = z.uuid({ message: 'is not the id of a run' });

/** The run that a request names. @throws Refusal bad-request */
export const runIdOf = (req: Request): string => parse(idSchema, req.params['run']);

/** A run as the database has it. */
export async function detailOf(tx: Tx, run: RunRow): Promise<RunDetail> {
  return {
    ...headOf(run),
    entries: await listEntries(tx, run),
    past: await listWaits(tx, run.aircraftId, PAST_WAITS),
    usual: usualFigures(await listPassedChecks(tx, run.aircraftId, run.openedAt, PAST_CHECKS)),
  };
}

/** A run that goes on as its session has it: it needs no database. */
export function detailOfOpen({ row, session, record }: OpenRun): RunDetail {
  const closed = session.entries.find((e) => e.kind === 'closed');
  const ended = { closedAt: closed ? new Date(closed.at) : null, outcome: session.state.outcome };
  return { ...headOf({ ...row, ...ended }), entries: [...session.entries], ...record };
}

function headOf(run: RunRow): Omit<RunDetail, 'entries' | 'past' | 'usual'> {
  return {
    ...summaryOf(run),
    aircraft: run.aircraftId,
    tail: run.tail,
    pad: run.pad,
    type: { id: run.typeId, version: run.typeVersion },
  };
}
