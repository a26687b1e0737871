import { type Item, stagesOf } from '@rouse/core/aircraft';
import {
  anotherTry,
  askOf,
  closingOutcome,
  conditionOf,
  legsAhead,
  itemState,
  offeredItems,
  type Payload,
  presentFlow,
  presentItem,
  readCondition,
  type RunState,
  stagesDone,
  standInActions,
  toPutBack,
  twoCrewTurn,
  wasFlowed,
  workingList,
} from '@rouse/core/procedure';
import { useMemo } from 'react';
import { store, useAppDispatch } from '../../app/store.ts';
import { voiceToggled } from '../../app/settings-slice.ts';
import { ApiRefusal, postJson } from '../../platform/api.ts';
import { silenceTones } from '../../platform/sound.ts';
import { stopSpeaking } from '../../platform/speech.ts';
import { ring } from '../../run/frame-ring.ts';
import { movedOnStandIn, refused } from '../../run/run-slice.ts';
import type { FollowedRun } from '../../run/run-slice.ts';
import { write } from '../../run/write.ts';

/** how long a switch that was moved on the simulated aircraft may take to be seen, ms */
const SEEN_WITHIN_MS = 12_000;
const LOOK_EVERY_MS = 100;

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
  close(): Promise<void>;
  choose(index: number): Promise<void>;
  toggleVoice: () => void;
}

export function usePilot(): Pilot {
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
        // on a simulated aircraft one act does it all: what the hand would move is moved, then it is said
        if (movesBySeen(run)) {
          if (isMoving(presentItem(run.type, run.state)!, run.state, performance.now())) return;
          if (!(await moveOnStandIn(run, dispatch)) || settlesItself(run)) return;
          await untilSeen(run);
          if (presentItem(run.type, followed()?.state ?? run.state)?.id !== presentItem(run.type, run.state)?.id)
            return;
        }
        await put(seenPayload(followed() ?? run));
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
        if (run && canMove(run)) await moveOnStandIn(run, dispatch);
      },
      async beginLeg(which) {
        const run = followed();
        if (run && !run.state.abort && run.state.status === 'open') await put(await legToBegin(run, which));
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
        await put(ownAbort(run));
      },
      async close() {
        const run = followed();
        if (run?.state.status === 'open') await put({ kind: 'closed', outcome: closingOutcome(run.type, run.state) });
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
  }, [dispatch]);
}

/** The leg that a key begins, null for none. On a simulated aircraft what the leg begins with is moved first. */
async function legToBegin({ type, state, detail }: FollowedRun, which: 'next' | 'last'): Promise<Payload | null> {
  const ahead = legsAhead(type, state);
  const leg = which === 'last' ? ahead.at(-1) : ahead[0];
  // the last leg is never begun by the key of the next one
  if (!leg || (which === 'next' && leg === type.legs.at(-1))) return null;
  if (detail.source === 'stand-in' && leg.standIn?.length)
    await postJson('/stand-in/begin', { run: detail.run, leg: leg.id }).catch(() => undefined);
  return { kind: 'leg-begun', leg: leg.id, how: 'declared' };
}

const ownAbort = (run: FollowedRun): Payload => ({
  kind: 'abort',
  watch: startOf(run),
  reason: 'pilot',
  text: 'Stopped by the pilot',
  say: 'Stop. Selector off.',
  figure: 'own call',
});

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

/** Whether a hand can move what the present item asks for, on the simulated aircraft of this run. */
export function canMove({ type, state, detail }: FollowedRun): boolean {
  const item = presentItem(type, state);
  return detail.source === 'stand-in' && item !== null && standInActions(item, state).length > 0;
}

/** a hand that was moved is given so long to be seen before it may be moved again, ms */
const MOVES_FOR_MS = 10_000;

/** One move of the hand: for an item, or for one stage of it, in one attempt. */
const moveOf = (item: Item, state: RunState): string =>
  `${item.id}/${stagesDone(state, item)}/${state.measured[item.id]?.attempts ?? 0}/${state.triedAgain.length}`;

/** The hand is on its way: nothing is gained by moving it once more. */
export function isMoving(item: Item, state: RunState, now_ms: number): boolean {
  const { moved } = store.getState().run;
  return moved !== null && moved.what === moveOf(item, state) && now_ms - moved.at_ms < MOVES_FOR_MS;
}

/** The present item is moved by the same act that answers it. */
function movesBySeen(run: FollowedRun): boolean {
  const { type, state } = run;
  const item = presentItem(type, state);
  if (!item || !canMove(run) || state.seeAgain.length > 0 || presentFlow(type, state) || isStarting(item)) return false;
  return twoCrewTurn(type, state, item)?.turn !== 'challenge';
}

/** What this item watches goes on already. */
function isStarting(item: Item): boolean {
  if (item.kind !== 'watch') return false;
  return store.getState().run.status?.watch?.starts.some((s) => s.watch === item.watch && s.phase === 'start') ?? false;
}

/** Sensors settle the present item, or its stage, once it is moved. */
function settlesItself({ type, state }: FollowedRun): boolean {
  const item = presentItem(type, state)!;
  const ask = askOf(item, { type, state });
  if (ask.kind === 'measured') return ask.sensed;
  return ask.kind === 'sensed' || item.kind === 'wait' || (item.kind === 'set' && item.expect !== undefined);
}

/** @returns whether it was moved; a refusal is shown */
async function moveOnStandIn({ detail, type, state }: FollowedRun, dispatch: typeof store.dispatch): Promise<boolean> {
  try {
    const item = presentItem(type, state)!;
    await postJson('/stand-in/move', { run: detail.run, item: item.id });
    dispatch(movedOnStandIn({ what: moveOf(item, state), at_ms: performance.now() }));
    dispatch(refused(null));
    return true;
  } catch (error) {
    if (!(error instanceof ApiRefusal)) throw error;
    dispatch(refused({ message: error.message, remedy: error.remedy }));
    return false;
  }
}

/** A pilot looks before answering: until the reading agrees, or has had its time. */
async function untilSeen({ type, state }: FollowedRun): Promise<void> {
  const item = presentItem(type, state)!;
  const condition = stagesOf(item)[stagesDone(state, item)]?.expect ?? conditionOf(item);
  if (!condition) return;
  for (let waited_ms = 0; waited_ms < SEEN_WITHIN_MS; waited_ms += LOOK_EVERY_MS) {
    const reading = readCondition(type, condition, ring.lastFrame(performance.now()));
    if (reading.verdict !== false) return;
    await new Promise((resolve) => window.setTimeout(resolve, LOOK_EVERY_MS));
  }
}

/** What Space writes now; null where the item wants more than a word. */
function seenPayload({ type, state, entries }: FollowedRun): Payload | null {
  const again = state.seeAgain[0];
  if (again !== undefined) return { kind: 'reseen', item: again };
  const item = presentItem(type, state);
  if (!item) return endPayload({ type, state, entries });
  const zone = presentFlow(type, state);
  if (zone) return { kind: 'zone-flowed', leg: zone.leg, zone: zone.zone };
  if (twoCrewTurn(type, state, item)?.turn === 'challenge') return { kind: 'challenged', item: item.id };
  const ask = askOf(item, { type, state });
  switch (ask.kind) {
    case 'stage':
      return stage(item.id, ask.stage);
    case 'measured':
      return ask.sensed || !stagesOf(item)[ask.stage] ? null : stage(item.id, ask.stage);
    case 'word':
      return { kind: 'item-done', item: item.id, how: 'declared', value: null, words: '' };
    default:
      return null;
  }
}

/** The list is at its end: what is out of its place is put back, a stopped start is tried again where it may be, else the run is closed. */
function endPayload({ type, state, entries }: Pick<FollowedRun, 'type' | 'state' | 'entries'>): Payload | null {
  const restore = toPutBack(type, state)[0]?.item;
  if (restore?.kind === 'test' || restore?.kind === 'measure')
    return stage(
      restore.id,
      stagesOf(restore).findLastIndex((s) => s.restores === true),
    );
  const next = tryOf({ type, state, entries });
  if (next?.verdict === 'held') return null;
  if (state.abort && (next?.verdict === 'open' || next?.verdict === 'by-eye'))
    return { kind: 'try-again', watch: state.abort.watch, items: [] };
  return { kind: 'closed', outcome: closingOutcome(type, state) };
}

/** Whether the start that was stopped may be tried again, by what the watch says now. */
export function tryOf({ type, state, entries }: Pick<FollowedRun, 'type' | 'state' | 'entries'>) {
  const starts = store.getState().run.status?.watch?.starts ?? null;
  return anotherTry(type, state, { entries, starts });
}

function stage(item: string, at: number): Payload {
  return { kind: 'stage-done', item, stage: at, value: null, words: '', last: false };
}
