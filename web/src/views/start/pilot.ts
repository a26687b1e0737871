import { stagesOf } from '@rouse/core/aircraft';
import {
  closingOutcome,
  legsAhead,
  itemState,
  offeredItems,
  type Payload,
  presentFlow,
  presentItem,
  stagesDone,
  standInActions,
  stillOpen,
  twoCrewTurn,
  wasFlowed,
  windPhaseOf,
  workingList,
} from '@rouse/core/procedure';
import { useMemo } from 'react';
import { store, useAppDispatch } from '../../app/store.ts';
import { voiceToggled } from '../../app/settings-slice.ts';
import { ApiRefusal, postJson } from '../../platform/api.ts';
import { silenceTones } from '../../platform/sound.ts';
import { stopSpeaking } from '../../platform/speech.ts';
import { refused } from '../../run/run-slice.ts';
import { isMeasured, isTapped } from './answers.tsx';
import type { FollowedRun } from '../../run/run-slice.ts';
import { useWrite } from '../../run/write.ts';

/** Everything that a pilot's keys and buttons do on this screen. Each reads the present state when it is called. */
export interface Pilot {
  seen: () => Promise<void>;
  /** the verification found it otherwise than the flow had left it, and it is right now */
  differed(): Promise<void>;
  /** lifts, or begins the way back to a quiet aircraft */
  beginLeg(which: 'next' | 'last'): Promise<void>;
  interrupt(): Promise<void>;
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
        await put(seenPayload(run));
      },
      async differed() {
        const run = followed();
        const item = run && presentItem(run.type, run.state);
        if (!run || !item || !wasFlowed(run.state, item)) return;
        await put({ kind: 'item-done', item: item.id, how: 'declared', value: null, words: '', differs: true });
      },
      async interrupt() {
        await put({ kind: 'interrupted', words: '' });
      },
      async moveStandIn() {
        const run = followed();
        const item = run && presentItem(run.type, run.state);
        if (!run || !item || run.detail.source !== 'stand-in') return;
        if (standInActions(item, run.state).length === 0) return;
        try {
          await postJson('/stand-in/move', { run: run.detail.run, item: item.id });
          dispatch(refused(null));
        } catch (error) {
          if (!(error instanceof ApiRefusal)) throw error;
          dispatch(refused({ message: error.message, remedy: error.remedy }));
        }
      },
      async beginLeg(which) {
        const run = followed();
        if (!run || run.state.abort || run.state.status !== 'open') return;
        const ahead = legsAhead(run.type, run.state);
        const leg = which === 'last' ? ahead.at(-1) : ahead[0];
        // the last leg is never begun by the key of the next one
        if (!leg || (which === 'next' && leg === run.type.legs.at(-1))) return;
        if (run.detail.source === 'stand-in' && leg.standIn?.length)
          await postJson('/stand-in/begin', { run: run.detail.run, leg: leg.id }).catch(() => undefined);
        await put({ kind: 'leg-begun', leg: leg.id, how: 'declared' });
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
        if (!run || run.state.abort || run.state.status !== 'open' || !canStop(run)) return;
        await put({
          kind: 'abort',
          watch: startOf(run),
          reason: 'pilot',
          text: 'Stopped by the pilot',
          say: 'Stop. Selector off.',
          figure: 'own call',
        });
      },
      async choose(index) {
        const run = followed();
        const item = run && offeredItems(run.type, run.state, { past: run.detail.past })[index];
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

/** The start that is being stopped: that of the present item, or the one begun last. */
function startOf({ type, state }: FollowedRun): string {
  const item = presentItem(type, state);
  if (item?.kind === 'watch') return item.watch;
  const begun = type.items.findLast((i) => i.kind === 'watch' && stagesDone(state, i) > 0);
  return begun?.kind === 'watch' ? begun.watch : (type.startWatches[0]?.id ?? 'by-hand');
}

/** A start can be stopped while an engine is on, or, by hand, as soon as its first moment is tapped. */
export function canStop({ type, state }: FollowedRun): boolean {
  if (state.phase !== 'off') return true;
  return type.items.some((i) => i.kind === 'watch' && stagesDone(state, i) > 0);
}

/** What Space writes now; null where the item wants more than a word. */
function seenPayload({ type, state, detail }: FollowedRun): Payload | null {
  const again = state.seeAgain[0];
  if (again !== undefined) return { kind: 'reseen', item: again };
  const item = presentItem(type, state);
  if (!item) {
    const restore = stillOpen(type, state)[0]?.item;
    if (restore?.kind === 'test' || restore?.kind === 'measure')
      return stage(
        restore.id,
        stagesOf(restore).findLastIndex((s) => s.restores === true),
      );
    return { kind: 'closed', outcome: closingOutcome(type, state) };
  }
  const zone = presentFlow(type, state);
  if (zone) return { kind: 'zone-flowed', leg: zone.leg, zone: zone.zone };
  if (twoCrewTurn(type, state, item)?.turn === 'challenge') return { kind: 'challenged', item: item.id };
  if (isTapped(item, detail.source)) return stage(item.id, stagesDone(state, item));
  if (isMeasured(item, detail.source)) {
    const at = stagesDone(state, item);
    const next = stagesOf(item)[at];
    return next && !next.expect ? stage(item.id, at) : null;
  }
  if (windPhaseOf(item)) return null;
  if (item.kind === 'hold' || item.kind === 'decide' || item.kind === 'compare') return null;
  return { kind: 'item-done', item: item.id, how: 'declared', value: null, words: '' };
}

function stage(item: string, at: number): Payload {
  return { kind: 'stage-done', item, stage: at, value: null, words: '', last: false };
}
