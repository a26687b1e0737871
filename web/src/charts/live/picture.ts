import type { Item, Phase, TraceCheck, WatchedType } from '@rouse/core/aircraft';
import {
  isFinished,
  isReachable,
  isShuttingDown,
  itemState,
  presentItem,
  procedureOf,
  type RunState,
  warmTargets,
} from '@rouse/core/procedure';

type Picture = 'check' | 'after-run' | 'lift' | 'flight' | 'warm-up' | 'needles' | 'start';

/**
 * What decides which picture it is: the list as it is worked; the engine alone, where the picture would tell what comes
 * next on a list that is to be known by heart; or always the start, where nobody works a list.
 */
export type Follows = 'list' | 'engine' | 'start';

interface Followed {
  type: WatchedType;
  state: RunState;
}

/** What is drawn of an aircraft at this moment. */
export function pictureOf(followed: Followed, follows: Follows, phase: Phase): Picture {
  if (follows === 'list') return listPicture(followed, phase);
  const starts = follows === 'start' || phase === 'off' || phase === 'start';
  return starts ? 'start' : 'needles';
}

function listPicture(followed: Followed, phase: Phase): Picture {
  const { type, state } = followed;
  const running = phase !== 'off';
  const item = presentItem(type, state);
  if (item && isMeasured(item)) return 'check';
  if (!state.abort && isShuttingDown(type, state) && !running) return 'after-run';
  const leg = type.legs.find((l) => l.id === item?.leg);
  const flies = Object.keys(state.begun).length > 0 && !isShuttingDown(type, state);
  const allDone = item === null && state.status === 'open' && isLiftReady(followed);
  if (leg?.gate || allDone) return 'lift';
  if (leg?.begins === undefined && flies) return 'flight';
  if (!running || phase === 'start' || isBeforeStart(type, item)) return 'start';
  return isWarming(followed) ? 'warm-up' : 'needles';
}

const isBeforeStart = (type: WatchedType, item: Item | null): boolean =>
  item === null || item.leg === type.legs[0]!.id || item.kind === 'watch';

/** Everything before lift is done, and it has not lifted. */
function isLiftReady({ type, state }: Followed): boolean {
  return isFinished(type, state) && Object.keys(state.begun).length === 0;
}

/** Whether a temperature is waited for, and nothing else than hands are before it. */
function isWarming({ type, state }: Followed): boolean {
  const present = presentItem(type, state);
  return procedureOf(type, state).some(
    (i) =>
      i.leg === present?.leg &&
      warmTargets(type, i).length > 0 &&
      itemState(state, i.id).status === 'todo' &&
      isReachable(type, state, i),
  );
}

export function isMeasured(item: Item): item is Extract<Item, { kind: 'measure' }> & { trace: TraceCheck } {
  return item.kind === 'measure' && item.trace !== undefined;
}
