import { presentItem } from '@rouse/core/procedure';
import { useAppSelector } from '../../app/store.ts';
import type { WatchedRun } from '../../run/run-slice.ts';
import { shownStart } from '../../run/shown-start.ts';
import { AfterRun } from './after-run.tsx';
import { LiveCheck } from './check.tsx';
import { LiveCorridor } from './corridor.tsx';
import { LiveFlight } from './flight.tsx';
import { LiftScreen } from './lift.tsx';
import { LiveNeedles } from './needles.tsx';
import { type Follows, isMeasured, pictureOf } from './picture.ts';
import { LiveSpeed } from './speed.tsx';
import { LiveStrip } from './strip.tsx';
import { LiveWarmUp } from './warm-up.tsx';

/** What the screen is about: the check that is measured, the start that goes on, else engine and rotor. */
export function LiveDrawings({ followed, follows = 'list' }: { followed: WatchedRun; follows?: Follows }) {
  const watch = useAppSelector((s) => s.run.status?.watch);
  const item = presentItem(followed.type, followed.state);
  switch (pictureOf(followed, follows, watch?.phase ?? 'off')) {
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
