import type { TypeFile } from '@rouse/core/aircraft';
import type { RunDetail } from '@rouse/core/contract';
import { getBytes, getJson } from '../platform/api.ts';
import type { WiredCorridors } from './run-slice.ts';

/** What a page shows a run from, before it follows it. */
export interface ReadRun {
  detail: RunDetail;
  corridors: WiredCorridors;
  type: TypeFile;
  /** the last minutes of its frames */
  bytes: Uint8Array;
}

const LOOK_BACK_S = 120;

async function ask(run: string): Promise<ReadRun> {
  const [detail, corridors] = await Promise.all([
    getJson<RunDetail>(`/runs/${run}`),
    getJson<WiredCorridors>(`/runs/${run}/corridors`),
  ]);
  const elapsed_s = (Date.now() - Date.parse(detail.openedAt)) / 1000;
  const [type, bytes] = await Promise.all([
    getJson<TypeFile>(`/types/${detail.type.id}/${detail.type.version}`),
    getBytes(`/runs/${run}/trace?from=${Math.max(0, elapsed_s - LOOK_BACK_S)}`),
  ]);
  return { detail, corridors, type, bytes };
}

let ahead: { run: string; read: Promise<ReadRun> } | null = null;

/** Begins to read a run while the scripts of its page are still on their way. */
export function readAhead(run: string): void {
  const read = ask(run);
  // whoever wants it asks again, and says why it fails
  read.catch(() => undefined);
  ahead = { run, read };
}

/** Reads a run: what was read ahead is taken once, and asked for again where that failed. @throws ApiRefusal */
export async function readRun(run: string): Promise<ReadRun> {
  const begun = ahead?.run === run ? ahead.read : null;
  ahead = null;
  return begun ? begun.catch(() => ask(run)) : ask(run);
}
