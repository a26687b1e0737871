import type { TypeFile, WatchedType } from '@rouse/core/aircraft';
import type { Practice } from '@rouse/core/contract';
import type { PracticeNow } from '@rouse/core/drill';
import { convert } from '@rouse/core/quantity';
import { type CSSProperties, useEffect, useMemo, useState } from 'react';
import styled from 'styled-components';
import { useKeepPracticeMutation, usePracticeQuery } from '../../../app/server-data.ts';
import { useAppSelector } from '../../../app/store.ts';
import { phone } from '../../../app/theme.ts';
import { bindKeys } from '../../../platform/keys.ts';
import { Button } from '../../../ui/button.tsx';
import { PREVAILS } from '../../../ui/heading.ts';
import { DrillFrame, DrillHead, Side } from '../drill-frame.tsx';
import { useCollective } from './collective.ts';
import { Flight } from './flight.tsx';
import { FlightControls, LIMITERS } from './flight-controls.tsx';
import { HoverSetting, type Setting, usualSetting } from './hover-setting.tsx';
import { Past } from './past.tsx';
import { Timers } from './timers.tsx';
import { usePractice } from './use-practice.ts';

const Mid = styled.section`
  grid-area: mid;
  padding: 12px 16px;
  display: grid;
  grid-template-rows: auto auto minmax(12.5rem, 1fr);
  gap: 10px;
  min-height: 0;
  min-width: 0;
  ${phone} {
    grid-template-rows: auto auto auto;
    &:has(dl) {
      grid-template-rows: auto auto 20rem;
    }
  }
`;

/** pressure altitude of the practice pad, m */
const PAD_m = 19;

interface HoverPracticeProps {
  type: WatchedType;
  leave: () => void;
}

/** One engine out, practised on the simulator: training mode, a failure at any moment, the limiter and its price. */
export function HoverPractice({ type, leave }: HoverPracticeProps) {
  const voice = useAppSelector((s) => s.settings.voice);
  const { now, begin, send } = usePractice(voice);
  const [setting, setSetting] = useState<Setting>(() => usualSetting(type));
  const { data: past = [] } = usePracticeQuery();
  const [keep] = useKeepPracticeMutation();
  const flying = now !== null && now.ended === null;

  const change = (to: Partial<Setting>): void => setSetting((before) => ({ ...before, ...to }));
  const start = (): void => begin(type, { ...setting, pa_m: PAD_m, height_m: convert(setting.height_ft, 'ft', 'm') });
  const stop = (): void => {
    if (now) void keep(resultOf(type, setting, now));
    send({ kind: 'end' });
  };
  const hand = useMemo(
    () => ({
      set: (to: number) => send({ kind: 'collective', to }),
      move: (by: number) => send({ kind: 'collective-by', by }),
    }),
    [send],
  );
  useCollective(flying ? hand : null);

  const keys: Record<string, () => void> = flying
    ? {
        t: () => send({ kind: 'training', on: !now.training }),
        '1': () => send({ kind: 'fail', engine: 1 }),
        '2': () => send({ kind: 'fail', engine: 2 }),
        h: () => send({ kind: 'hand-back' }),
        ...Object.fromEntries(
          LIMITERS.map((l) => [l.key.toLowerCase(), () => send({ kind: 'limiter', limiter: l.id })]),
        ),
      }
    : {};
  if (now !== null) keys['escape'] = stop;
  useKeys(keys);

  return (
    <DrillFrame style={{ '--left': '20rem', '--right': '17.5rem' } as CSSProperties}>
      <title>One engine out · Drill · Rouse</title>
      <DrillHead>
        <h1>Drill</h1>
        <p>{type.name}, one engine out. On the simulator: nothing here enters an aircraft’s record.</p>
        <p>{PREVAILS}</p>
      </DrillHead>
      <Side aria-label="Exercise" style={{ gridArea: 'left' }}>
        {now === null ? (
          <>
            <HoverSetting type={type} setting={setting} change={change} begin={start} />
            <Button onPress={leave}>Another lesson</Button>
          </>
        ) : (
          <FlightControls now={now} flying={flying} send={send} stop={stop} />
        )}
      </Side>
      <Mid aria-label="Flight">{now ? <Flight type={type} now={now} /> : <Past past={past} />}</Mid>
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <Side aria-label="Timers" tabIndex={0} style={{ gridArea: 'right' }}>
        <Timers type={type} now={now} />
      </Side>
    </DrillFrame>
  );
}

function useKeys(keys: Record<string, () => void>): void {
  useEffect(
    () =>
      bindKeys(Object.entries(keys).map(([key, run]) => ({ keys: [key], shown: key.toUpperCase(), says: '', run }))),
    [keys],
  );
}

function resultOf(type: TypeFile, { mass_kg, oat_C }: Setting, now: PracticeNow): Practice {
  return {
    type: type.id,
    exercise: now.failed === null ? 'training' : 'failure',
    result: {
      lasted_s: now.t_s,
      height_lost_m: now.heightLost_m,
      nr_least_pct: now.nrLeast_pct,
      mass_kg,
      oat_C,
      failed_at_s: now.failedAt_s,
      ratings: now.ratings
        .filter((r) => r.booked_s > 0)
        .map(({ label, booked_s, uses, engine }) => ({ label: `${label}, engine ${engine}`, booked_s, uses })),
      ended: now.ended ?? 'stopped',
    },
  };
}
