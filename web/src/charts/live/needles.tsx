import type { WatchedType } from '@rouse/core/aircraft';
import { useMemo } from 'react';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { mono } from '../../app/theme.ts';
import { ChartTitle } from '../frame.tsx';
import { usePulse } from '../../platform/pulse.ts';
import { ring } from '../../run/frame-ring.ts';
import type { WatchedRun } from '../../run/run-slice.ts';
import { lanesOf, type Shown } from './lane.ts';
import { Lanes } from './lanes.tsx';

const SECONDS = 60;
/** needles that stand this near are joined, % */
const JOINED_PCT = 1.5;

const Splits = styled.ul`
  display: flex;
  gap: 8px 22px;
  flex-wrap: wrap;
  font-size: 0.875rem;
  li b {
    ${mono}
    font-size: 1.125rem;
  }
`;

/** Engine and rotor together, with what is between them: joined, or the freewheel running free. */
export function LiveNeedles({ followed: { type } }: { followed: WatchedRun }) {
  const drives = useMemo(() => drivesOf(type), [type]);
  const near = useAppSelector((s) => s.run.status?.watch?.phase !== 'idle');
  const lanes = useMemo(() => lanesOf(type, shownOf(type, drives, near)), [type, drives, near]);
  return (
    <>
      <ChartTitle title="Engine and rotor" about="over the last minute" />
      <Lanes key={String(near)} lanes={lanes} seconds={SECONDS} label="Engine and rotor speeds over the last minute" />
      <ChartTitle title="Needles" about="engine less rotor" />
      <Needles type={type} drives={drives} />
    </>
  );
}

/** What turns the rotor: the crankshaft of a piston engine, the power turbine of each other. */
function drivesOf(type: WatchedType): readonly string[] {
  return type.roles.powerTurbine ?? type.startWatches.map((w) => w.channels.speed);
}

function shownOf({ runUpWatch }: WatchedType, drives: readonly string[], near: boolean): Shown[] {
  const rotor = { channel: runUpWatch.rotor, ...(near && { window: runUpWatch.rotor_pct }) };
  return [rotor, ...drives.map((channel) => ({ channel }))];
}

/** rotor that stands, or is only pushed by the wind, % */
const STILL_PCT = 2;

function wordsOf(split: number, rotor: number): string {
  if (Number.isNaN(split)) return '';
  if (rotor < STILL_PCT) return 'rotor at rest';
  if (Math.abs(split) <= JOINED_PCT) return 'joined';
  return split < 0 ? 'freewheel running free' : 'not joined: the engine turns faster';
}

function Needles({ type, drives }: { type: WatchedType; drives: readonly string[] }) {
  const now_ms = usePulse(200);
  const frame = ring.lastFrame(now_ms);
  const at = (id: string): number => frame[type.channels.findIndex((c) => c.id === id)]!;
  return (
    <Splits>
      {drives.map((id) => {
        const rotor = at(type.runUpWatch.rotor);
        const split = at(id) - rotor;
        const { label } = type.channels.find((c) => c.id === id)!;
        return (
          <li key={id} data-split={Number.isNaN(split) ? 'unknown' : split < -JOINED_PCT ? 'free' : 'joined'}>
            {label} <b>{Number.isNaN(split) ? 'unknown' : `${split.toFixed(1).replace(/^-0\.0$/, '0.0')} %`}</b>{' '}
            {wordsOf(split, rotor)}
          </li>
        );
      })}
    </Splits>
  );
}
