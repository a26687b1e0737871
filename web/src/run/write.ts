import type { Payload } from '@rouse/core/procedure';
import { useCallback } from 'react';
import { v7 as uuidv7 } from 'uuid';
import { store, useAppDispatch } from '../app/store.ts';
import { ApiRefusal, postJson } from '../platform/api.ts';
import { refused } from './run-slice.ts';

const TRIES = 6;

/**
 * Writes one entry; when the watch wrote in between, it tries again behind it with the same id, so that nothing is written twice.
 * A refusal is shown where the pilot looks. @returns whether it was accepted
 */
export function useWrite(): (payload: Payload) => Promise<boolean> {
  const dispatch = useAppDispatch();
  return useCallback(
    async (payload: Payload) => {
      const followed = store.getState().run.followed;
      if (!followed) return false;
      const id = uuidv7();
      let seq = followed.entries.length + 1;
      for (let i = 0; i < TRIES; i++) {
        try {
          await postJson(`/runs/${followed.detail.run}/entries`, { id, seq, payload });
          dispatch(refused(null));
          return true;
        } catch (error) {
          if (!(error instanceof ApiRefusal)) throw error;
          if (error.code === 'out-of-order' && error.details?.expected !== undefined) {
            seq = error.details.expected;
            continue;
          }
          dispatch(refused({ message: error.message, remedy: error.remedy }));
          return false;
        }
      }
      dispatch(refused({ message: 'The journal was busy; nothing was written.', remedy: 'Press the key again.' }));
      return false;
    },
    [dispatch],
  );
}
