import { sayValue } from '@rouse/core/aircraft';
import { isBackground, itemState, procedureOf, warmTargets } from '@rouse/core/procedure';
import { useMemo } from 'react';
import { ChartTitle } from '../frame.tsx';
import { clockTime, minutes } from '../../ui/words.ts';
import { usePulse, useWallClock } from '../../platform/pulse.ts';
import { waitEstimate } from '../../run/estimates.ts';
import { ring } from '../../run/frame-ring.ts';
import type { WatchedRun } from '../../run/run-slice.ts';
import { FigureRows } from './figures.ts';
import { lanesOf } from './lane.ts';
import { Lanes } from './lanes.tsx';

const SECONDS = 120;

/** Temperatures on their way to the green: where they are, and when they will be there, with the range. */
export function LiveWarmUp({ followed }: { followed: WatchedRun }) {
  const { type } = followed;
  const waits = useMemo(() => warmWaits(followed), [followed]);
  const lanes = useMemo(
    () =>
      lanesOf(
        type,
        waits.flatMap((w) =>
          w.targets.map((t) => ({ channel: t.channel, edge: { at: t.target_C, words: w.item.challenge } })),
        ),
      ),
    [type, waits],
  );
  return (
    <>
      <ChartTitle title="Warming up" about="over the last two minutes, with the temperature that each must reach" />
      <Lanes
        key={lanes.length}
        lanes={lanes}
        seconds={SECONDS}
        label="Temperatures over the last two minutes; when each is ready stands below"
      />
      <ChartTitle title="Ready" about="by this run's own pace and how this tail warmed up before" />
      <WaitTable followed={followed} waits={waits} />
    </>
  );
}

function WaitTable({ followed, waits }: { followed: WatchedRun; waits: ReturnType<typeof warmWaits> }) {
  const frame = ring.lastFrame(usePulse(1000));
  const now_ms = useWallClock(1000);
  return (
    <FigureRows>
      <thead>
        <tr>
          <th>Waited for</th>
          <th>Now</th>
          <th>In</th>
          <th>Between</th>
          <th>At</th>
        </tr>
      </thead>
      <tbody>
        {waits.map(({ item, targets }) => {
          const left = waitEstimate(followed, item, null);
          const done = itemState(followed.state, item.id).status !== 'todo';
          const at = followed.type.channels.findIndex((c) => c.id === targets[0]!.channel);
          return (
            <tr key={item.id} data-wait={item.id}>
              <td>{item.challenge}</td>
              <td>{sayValue(followed.type.channels[at]!, frame[at]!)}</td>
              <td data-figure>{done ? 'ready' : left ? minutes(left.seconds) : 'no trend yet'}</td>
              <td>{done || !left ? '' : between(left)}</td>
              <td>{done || !left ? '' : clockTime(new Date(now_ms + 1000 * left.seconds))}</td>
            </tr>
          );
        })}
      </tbody>
    </FigureRows>
  );
}

function between({ low, high }: { low: number; high: number }): string {
  return Number.isFinite(high) ? `${minutes(low)} to ${minutes(high)}` : `${minutes(low)} or more`;
}

/** The waits for temperatures of this run, done or not. */
function warmWaits({ type, state }: WatchedRun) {
  return procedureOf(type, state)
    .filter((item) => isBackground(item) && warmTargets(type, item).length > 0)
    .map((item) => ({ item, targets: warmTargets(type, item) }));
}
