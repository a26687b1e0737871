import type { WatchedType } from '@rouse/core/aircraft';
import type { PracticeNow } from '@rouse/core/drill';
import { convert } from '@rouse/core/quantity';
import { useMemo } from 'react';
import styled from 'styled-components';
import { mono } from '../../../app/theme.ts';
import { Lanes } from '../../../charts/live/lanes.tsx';
import { lanesOf } from '../../../charts/live/lane.ts';
import { ChartTitle } from '../../../charts/frame.tsx';
import { useUnits } from '../../../ui/units.ts';
import { stopwatch } from '../../../ui/words.ts';

const Figures = styled.dl`
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 5.5rem), 1fr));
  gap: 8px 16px;
  div {
    border-top: 2px solid var(--usual3);
    padding-top: 3px;
  }
  dt {
    font-size: 0.78125rem;
    color: var(--soft);
  }
  dd {
    ${mono}
    font-size: 1.375rem;
    font-weight: 680;
    line-height: 1.1;
    margin: 0;
  }
  small {
    display: block;
    font-size: 0.75rem;
    color: var(--soft);
    font-weight: 500;
  }
  [data-low] dd {
    color: var(--warning);
  }
`;

/** What the control says of itself, in words. */
const HELD_BY: Readonly<Record<string, string>> = {
  GOV: 'governed',
  TQ: 'held by torque',
  TOT: 'held by temperature',
  NG: 'held by gas producer',
  ACC: 'accelerating',
};

/** What the hand needs to see: rotor, torques with what holds them, height; and the last minute of them. */
export function Flight({ type, now }: { type: WatchedType; now: PracticeNow }) {
  const { show } = useUnits();
  const lanes = useMemo(
    () =>
      lanesOf(type, [
        ...(type.runUpWatch.torque?.channels ?? []).map((channel) => ({ channel })),
        { channel: type.runUpWatch.rotor, window: type.runUpWatch.rotor_pct },
        ...(type.roles.height === undefined ? [] : [{ channel: type.roles.height }]),
      ]),
    [type],
  );
  const limited = (i: 0 | 1): string => (now.failed === i + 1 ? 'failed' : (HELD_BY[now.limitedBy[i]] ?? 'held'));
  return (
    <>
      <Figures>
        <div data-low={now.nr_pct < type.runUpWatch.rotor_pct[0] || undefined}>
          <dt>Rotor</dt>
          <dd data-nr>
            {now.nr_pct.toFixed(1)} % <small>least {now.nrLeast_pct.toFixed(1)}</small>
          </dd>
        </div>
        {([0, 1] as const).map((i) => (
          <div key={i}>
            <dt>Torque {i + 1}</dt>
            <dd data-torque={i + 1}>
              {now.torque_pct[i].toFixed(0)} % <small>{limited(i)}</small>
            </dd>
          </div>
        ))}
        <div>
          <dt>Height</dt>
          <dd data-height>
            {show(convert(now.height_m, 'm', 'ft'), 'height')}{' '}
            <small>lost {show(convert(now.heightLost_m, 'm', 'ft'), 'height', 'ceil')}</small>
          </dd>
        </div>
        <div>
          <dt>Climb</dt>
          <dd>
            {Math.round(convert(now.climb_mps, 'm/s', 'ft/min') / 10) * 10} <small>ft/min</small>
          </dd>
        </div>
      </Figures>
      <ChartTitle
        title={
          now.ended === null
            ? `${stopwatch(now.t_s)} in the hover`
            : now.ended === 'hard'
              ? 'On the ground, too hard'
              : 'On the ground'
        }
        about={
          now.failed === null
            ? now.training
              ? 'training mode: both engines share what one could give'
              : 'both engines'
            : `engine ${now.failed} failed at ${stopwatch(now.failedAt_s ?? 0)}`
        }
      />
      <Lanes lanes={lanes} seconds={60} label="Torque, rotor and height over the last minute" />
    </>
  );
}
