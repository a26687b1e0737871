// Tries a draft beside the page: over starts that were flown, and with a hand that works its list.
import { isWatched, type TypeFile, type WatchedType } from '@rouse/core/aircraft';
import { auditFlight, type Finding, flightsOf } from '@rouse/core/audit';
import type { StoredStart } from '@rouse/core/contract';
import { tryStart, type TriedStart } from '@rouse/core/replay';
import { decodeChunk } from '@rouse/core/trace';
import { getBytes, getJson } from '../../../platform/api.ts';

export type ToTry = { what: 'starts'; draft: TypeFile; basedOn: number | null } | { what: 'flights'; draft: TypeFile };

/** A recorded start under the version that flies and under the draft. */
export type TriedRow = StoredStart & TriedStart;

export interface TriedFlight {
  words: string;
  findings: Finding[];
}

export type TrialNews =
  | { kind: 'start'; of: number; row: TriedRow }
  | { kind: 'flight'; of: number; flight: TriedFlight }
  | { kind: 'done' }
  | { kind: 'trouble'; words: string };

/** what is looked at of a start: from before its starter until it has idled for a while, s */
const BEFORE_S = 10;
const AFTER_S = 80;
const STARTS = 40;
/** read ahead while one is tried */
const AT_ONCE = 4;

const say = (news: TrialNews): void => self.postMessage(news);

self.addEventListener('message', ({ data }: MessageEvent<ToTry>) => {
  run(data).then(
    () => say({ kind: 'done' }),
    (error: unknown) => say({ kind: 'trouble', words: error instanceof Error ? error.message : String(error) }),
  );
});

async function run(asked: ToTry): Promise<void> {
  if (asked.what === 'starts') await tryStarts(asked.draft, asked.basedOn);
  else flyList(asked.draft);
}

async function tryStarts(draft: TypeFile, basedOn: number | null): Promise<void> {
  const starts = await getJson<StoredStart[]>(`/types/${draft.id}/starts?limit=${STARTS}`);
  const types = new Map<number, WatchedType>();
  for (const version of new Set([...starts.map((s) => s.version), ...(basedOn === null ? [] : [basedOn])])) {
    const type = await getJson<TypeFile>(`/types/${draft.id}/${version}`);
    if (isWatched(type)) types.set(version, type);
  }
  if (!isWatched(draft)) throw new Error('Nothing of this type is sensed: there is nothing to try.');
  const read = (s: StoredStart): Promise<Uint8Array> =>
    getBytes(`/runs/${s.run}/trace?from=${Math.max(0, s.starterAt_s - BEFORE_S)}&to=${s.starterAt_s + AFTER_S}`);
  const ahead = starts.slice(0, AT_ONCE).map(read);
  for (const [i, start] of starts.entries()) {
    const bytes = await ahead[i]!;
    if (i + AT_ONCE < starts.length) ahead.push(read(starts[i + AT_ONCE]!));
    const recorded = types.get(start.version);
    const released = types.get(basedOn ?? start.version) ?? recorded;
    if (!recorded || !released) continue;
    const trace = decodeChunk(
      bytes,
      recorded.channels.map((c) => c.id),
    );
    say({ kind: 'start', of: starts.length, row: { ...start, ...tryStart(released, draft, trace) } });
  }
}

function flyList(draft: TypeFile): void {
  if (!draft.simulator) throw new Error('There is no simulator of this type: its list cannot be flown here.');
  const flights = flightsOf(draft);
  for (const flight of flights) {
    const findings: Finding[] = [];
    auditFlight(draft, flight, (path, message, remedy) => findings.push({ path, message, remedy }));
    say({ kind: 'flight', of: flights.length, flight: { words: flight.words, findings } });
  }
}
