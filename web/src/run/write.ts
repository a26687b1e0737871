import type { Payload } from '@rouse/core/procedure';
import { v7 as uuidv7 } from 'uuid';
import { store } from '../app/store.ts';
import { EntryQueue } from './entry-queue.ts';
import { receive } from './receive.ts';
import { refused, unsentCounted } from './run-slice.ts';

const queue = new EntryQueue({
  written: (run, { entries }) => {
    if (store.getState().run.followed?.detail.run === run) receive(entries, 'new');
  },
  nextSeq: (run) => {
    const { followed } = store.getState().run;
    return followed?.detail.run === run ? followed.entries.length + 1 : 1;
  },
  refusedLater: (refusal) => void store.dispatch(refused(refusal)),
  waiting: (count) => void store.dispatch(unsentCounted(count)),
});

/**
 * Writes one entry of a person into the run that is followed. A refusal is shown where the pilot looks.
 * @returns whether it was taken; an entry that the server could not be told of is kept on this page, and counts as taken
 */
export async function write(payload: Payload): Promise<boolean> {
  const { followed } = store.getState().run;
  if (!followed) return false;
  const sent = await queue.send({ id: uuidv7(), run: followed.detail.run, payload });
  store.dispatch(refused(sent.kind === 'refused' ? { message: sent.message, remedy: sent.remedy } : null));
  return sent.kind !== 'refused';
}
