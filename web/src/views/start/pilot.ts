import { itemState, meanwhileItems, type Payload, presentItem, workingList } from '@rouse/core/procedure';
import { useMemo } from 'react';
import { store, useAppDispatch } from '../../app/store.ts';
import { voiceToggled } from '../../app/settings-slice.ts';
import { ApiRefusal, postJson } from '../../platform/api.ts';
import { silenceTones } from '../../platform/sound.ts';
import { stopSpeaking } from '../../platform/speech.ts';
import { refused } from '../../run/run-slice.ts';
import { useWrite } from '../../run/write.ts';

/** Everything that a pilot's keys and buttons do on this screen. Each reads the present state when it is called. */
export interface Pilot {
  seen: () => Promise<void>;
  moveStandIn(): Promise<void>;
  back(): Promise<void>;
  undo(): Promise<void>;
  mark(): Promise<void>;
  abort(): Promise<void>;
  choose(index: number): Promise<void>;
  toggleVoice: () => void;
}

export function usePilot(): Pilot {
  const write = useWrite();
  const dispatch = useAppDispatch();
  return useMemo(() => {
    const followed = () => store.getState().run.followed;
    const put = async (payload: Payload | null): Promise<void> => {
      if (payload) await write(payload);
    };
    return {
      async seen() {
        const run = followed();
        if (!run || run.state.status !== 'open') return;
        const item = presentItem(run.type, run.state);
        if (item) await put({ kind: 'item-done', item: item.id, how: 'declared', value: null, words: '' });
        else {
          const ready = itemState(run.state, 'ready').status === 'done';
          await put({ kind: 'closed', outcome: run.state.abort ? 'aborted' : ready ? 'ready' : 'given-up' });
        }
      },
      async moveStandIn() {
        const run = followed();
        const item = run && presentItem(run.type, run.state);
        if (!run || !item?.standIn || run.detail.source !== 'stand-in') return;
        try {
          await postJson('/stand-in/move', { item: item.id });
          dispatch(refused(null));
        } catch (error) {
          if (!(error instanceof ApiRefusal)) throw error;
          dispatch(refused({ message: error.message, remedy: error.remedy }));
        }
      },
      async back() {
        const run = followed();
        if (!run) return;
        const last = workingList(run.type, run.state)
          .filter((i) => itemState(run.state, i.id).status !== 'todo' && i.kind !== 'watch')
          .sort((a, b) => itemState(run.state, b.id).seq - itemState(run.state, a.id).seq)[0];
        if (last) await put({ kind: 'item-reopened', item: last.id });
      },
      async undo() {
        const entry = followed()?.state.lastUndoable;
        if (entry) await put({ kind: 'undone', entry });
      },
      async mark() {
        await put({ kind: 'mark', words: '' });
      },
      async abort() {
        const run = followed();
        if (!run || run.state.abort || run.state.status !== 'open' || run.state.phase === 'off') return;
        await put({
          kind: 'abort',
          watch: run.type.startWatches[0]!.id,
          reason: 'pilot',
          text: 'Stopped by the pilot',
          say: 'Stop. Selector off.',
          figure: 'own call',
        });
      },
      async choose(index) {
        const run = followed();
        const item = run && meanwhileItems(run.type, run.state)[index];
        if (item) await put({ kind: 'item-chosen', item: item.id });
      },
      toggleVoice() {
        silenceTones();
        stopSpeaking();
        dispatch(voiceToggled());
      },
    };
  }, [write, dispatch]);
}
