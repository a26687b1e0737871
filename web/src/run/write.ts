import { acceptFromPilot, chainEntries, type Payload } from '@rouse/core/procedure';
import { v7 as uuidv7 } from 'uuid';
import { store } from '../app/store.ts';
import { EntryQueue } from './entry-queue.ts';
import { receive } from './receive.ts';
import { runClock } from './clock.ts';
import { refused, refusedMeanwhile, unsentCounted, writtenMeanwhile } from './run-slice.ts';
import { tabletRunInHand } from './tablet/in-hand.ts';
import { countTabletRuns } from './tablet/send-tablet-runs.ts';
import type { TabletRun } from './tablet/tablet-run.ts';

const queue = new EntryQueue({
  written: (run, { entries }) => {
    if (store.getState().run.followed?.detail.run === run) receive(entries, 'new');
  },
  nextSeq: (run) => {
    const { followed } = store.getState().run;
    return followed?.detail.run === run ? followed.entries.length + 1 : 1;
  },
  refusedLater: (refusal, id) => {
    store.dispatch(refusedMeanwhile(id));
    store.dispatch(refused(refusal));
  },
  newId: uuidv7,
  waiting: (count) => void store.dispatch(unsentCounted(count)),
});

/**
 * Writes one entry of a person into the run that is followed. A refusal is shown where the pilot looks.
 * @returns whether it was taken; an entry that the server could not be told of is kept on this page, and counts as taken
 */
export async function write(payload: Payload): Promise<boolean> {
  const { followed, connected } = store.getState().run;
  if (!followed) return false;
  const own = tabletRunInHand(followed.detail.run);
  if (own) return writeOnTablet(own, payload);
  const id = uuidv7();
  // where the line is known to be gone nothing waits for it: a stop least of all
  if (!connected) goOnMeanwhile(id, payload);
  const sent = await queue.send({ id, run: followed.detail.run, payload });
  if (sent.kind === 'kept') goOnMeanwhile(id, payload);
  if (sent.kind === 'refused') store.dispatch(refusedMeanwhile(id));
  store.dispatch(refused(sent.kind === 'refused' ? { message: sent.message, remedy: sent.remedy } : null));
  return sent.kind !== 'refused';
}

async function writeOnTablet(run: TabletRun, payload: Payload): Promise<boolean> {
  const answered = await run.answer(payload);
  if (answered.ok) receive([...answered.entries], 'new');
  store.dispatch(refused(answered.ok ? null : { message: answered.message, remedy: answered.remedy }));
  if (run.head.closed) await countTabletRuns();
  return answered.ok;
}

/** Without a server nothing is sensed: the list goes on by what is written here, as far as that can be accepted by eye. */
function goOnMeanwhile(id: string, payload: Payload): void {
  const { followed, status } = store.getState().run;
  if (!followed || [...followed.entries, ...followed.meanwhile].some((e) => e.id === id)) return;
  const verdict = acceptFromPilot(followed.type, followed.state, payload, null);
  if (!verdict.ok) return;
  const t_s = runClock(status, followed.detail.openedAt);
  const draft = { id, at_ms: Date.now(), t_s, by: followed.state.holder?.person ?? '', payload: verdict.payload };
  const before = followed.meanwhile.at(-1) ?? followed.entries.at(-1);
  store.dispatch(writtenMeanwhile(chainEntries(followed.detail.run, before, [draft])));
}
