import type { TypeFile } from '@rouse/core/aircraft';
import type { RunDetail } from '@rouse/core/contract';
import type { Entry } from '@rouse/core/procedure';
import type { SessionView } from '@rouse/core/session';
import type { LiveStatus } from './run-slice.ts';

/** What is looked at or flown on the simulator as if it were a run: nothing of it is in a record. */
export function unrecordedRun(type: TypeFile, entries: Entry[] = []): RunDetail {
  return {
    run: '',
    openedAt: '',
    closedAt: null,
    pilot: '',
    outcome: null,
    source: 'simulated',
    conditions: '',
    aircraft: '',
    tail: '',
    pad: '',
    type: { id: type.id, version: type.version },
    entries,
    past: [],
    usual: {},
  };
}

/** Where it stands now, with nothing that a server would keep. */
export function unrecordedStatus(t_s: number, view: Partial<SessionView>): LiveStatus {
  return {
    kind: 'status',
    t_s,
    source: 'live',
    quality: null,
    unknown: [],
    keptTo_s: null,
    outbox: { waiting: 0, away_s: 0, disk: null },
    pace: 1,
    watch: null,
    check: null,
    dwells: [],
    ratings: [],
    ...view,
    arrivedAt_ms: performance.now(),
  };
}
