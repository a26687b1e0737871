import { useAppSelector } from '../app/store.ts';
import type { WatchedRun } from '../run/run-slice.ts';
import { shownStart } from '../run/shown-start.ts';
import { LiveCorridor } from './corridor.tsx';
import { LiveSpeed } from './speed.tsx';
import { LiveStrip } from './strip.tsx';

/** The engine start that the screen is about, drawn as its kind of engine asks. */
export function LiveDrawings({ followed }: { followed: WatchedRun }) {
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
