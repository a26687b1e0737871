import type { Item, TraceCheck } from '@rouse/core/aircraft';
import { isReachable, itemState, presentItem, procedureOf, warmTargets } from '@rouse/core/procedure';
import { useAppSelector } from '../app/store.ts';
import type { WatchedRun } from '../run/run-slice.ts';
import { shownStart } from '../run/shown-start.ts';
import { LiveCheck } from './check.tsx';
import { LiveCorridor } from './corridor.tsx';
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
  const beforeStart = item?.leg === followed.type.legs[0]!.id;
  const aboutStart = item === null || beforeStart || item.kind === 'watch' || watch?.phase === 'start';
  const running = watch !== null && watch !== undefined && watch.phase !== 'off';
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
