import type { Item, TraceCheck } from '@rouse/core/aircraft';
import {
  isFinished,
  isReachable,
  isShuttingDown,
  itemState,
  presentItem,
  procedureOf,
  warmTargets,
} from '@rouse/core/procedure';
import { useAppSelector } from '../app/store.ts';
import type { WatchedRun } from '../run/run-slice.ts';
import { shownStart } from '../run/shown-start.ts';
import { AfterRun } from './after-run.tsx';
import { LiveCheck } from './check.tsx';
import { LiveCorridor } from './corridor.tsx';
import { LiveFlight } from './flight.tsx';
import { LiftScreen } from './lift.tsx';
import { LiveNeedles } from './needles.tsx';
import { LiveSpeed } from './speed.tsx';
import { LiveStrip } from './strip.tsx';
import { LiveWarmUp } from './warm-up.tsx';

/** What the screen is about: the check that is measured, the start that goes on, else engine and rotor. */
export function LiveDrawings({ followed }: { followed: WatchedRun }) {
  const watch = useAppSelector((s) => s.run.status?.watch);
  const { spec, start } = shownStart(followed.type, followed.state, watch);
  const item = presentItem(followed.type, followed.state);
  if (item && isMeasured(item)) return <LiveCheck followed={followed} item={item} />;
  const leg = followed.type.legs.find((l) => l.id === item?.leg);
  const { state } = followed;
  const running = watch !== null && watch !== undefined && watch.phase !== 'off';
  if (!state.abort && isShuttingDown(followed.type, state) && !running) return <AfterRun followed={followed} />;
  if (leg?.gate || (item === null && state.status === 'open' && isLiftReady(followed)))
    return <LiftScreen followed={followed} />;
  if (leg?.begins === undefined && Object.keys(state.begun).length > 0 && !isShuttingDown(followed.type, state))
    return <LiveFlight followed={followed} />;
  const beforeStart = item?.leg === followed.type.legs[0]!.id;
  const aboutStart = item === null || beforeStart || item.kind === 'watch' || watch?.phase === 'start';
  if (!aboutStart && running && isWarming(followed)) return <LiveWarmUp followed={followed} />;
  if (!aboutStart && running) return <LiveNeedles followed={followed} />;
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
