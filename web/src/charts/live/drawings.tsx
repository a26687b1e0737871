import type { Item, Phase, TraceCheck } from '@rouse/core/aircraft';
import {
  isFinished,
  isReachable,
  isShuttingDown,
  itemState,
  presentItem,
  procedureOf,
  warmTargets,
} from '@rouse/core/procedure';
import { useAppSelector } from '../../app/store.ts';
import type { WatchedRun } from '../../run/run-slice.ts';
import { shownStart } from '../../run/shown-start.ts';
import { AfterRun } from './after-run.tsx';
import { LiveCheck } from './check.tsx';
import { LiveCorridor } from './corridor.tsx';
import { LiveFlight } from './flight.tsx';
import { LiftScreen } from './lift.tsx';
import { LiveNeedles } from './needles.tsx';
import { LiveSpeed } from './speed.tsx';
import { LiveStrip } from './strip.tsx';
import { LiveWarmUp } from './warm-up.tsx';

type Picture = 'check' | 'after-run' | 'lift' | 'flight' | 'warm-up' | 'needles' | 'start';

/**
 * What the screen is about: the check that is measured, the start that goes on, else engine and rotor.
 * @param start whatever the list says: nobody works one
 */
export function LiveDrawings({ followed, start = false }: { followed: WatchedRun; start?: boolean }) {
  const watch = useAppSelector((s) => s.run.status?.watch);
  const item = presentItem(followed.type, followed.state);
  switch (start ? 'start' : pictureOf(followed, item, watch?.phase ?? 'off')) {
    case 'check':
      return item && isMeasured(item) ? <LiveCheck followed={followed} item={item} /> : null;
    case 'after-run':
      return <AfterRun followed={followed} />;
    case 'lift':
      return <LiftScreen followed={followed} />;
    case 'flight':
      return <LiveFlight followed={followed} />;
    case 'warm-up':
      return <LiveWarmUp followed={followed} />;
    case 'needles':
      return <LiveNeedles followed={followed} />;
    case 'start':
      return <StartPicture followed={followed} />;
  }
}

function StartPicture({ followed }: { followed: WatchedRun }) {
  const watch = useAppSelector((s) => s.run.status?.watch);
  const { spec, start } = shownStart(followed.type, followed.state, watch);
  return (
    <>
      {spec.kind === 'piston' ? (
        <LiveSpeed followed={followed} spec={spec} start={start} />
      ) : (
        <LiveCorridor followed={followed} spec={spec} start={start} />
      )}
      <LiveStrip followed={followed} spec={spec} start={start} />
    </>
  );
}

function pictureOf(followed: WatchedRun, item: Item | null, phase: Phase): Picture {
  const { type, state } = followed;
  const running = phase !== 'off';
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

const isBeforeStart = (type: WatchedRun['type'], item: Item | null): boolean =>
  item === null || item.leg === type.legs[0]!.id || item.kind === 'watch';

/** Everything before lift is done, and it has not lifted. */
function isLiftReady({ type, state }: WatchedRun): boolean {
  return isFinished(type, state) && Object.keys(state.begun).length === 0;
}

/** Whether a temperature is waited for, and nothing else than hands are before it. */
function isWarming({ type, state }: WatchedRun): boolean {
  const present = presentItem(type, state);
  return procedureOf(type, state).some(
    (i) =>
      i.leg === present?.leg &&
      warmTargets(type, i).length > 0 &&
      itemState(state, i.id).status === 'todo' &&
      isReachable(type, state, i),
  );
}

function isMeasured(item: Item): item is Extract<Item, { kind: 'measure' }> & { trace: TraceCheck } {
  return item.kind === 'measure' && item.trace !== undefined;
}
