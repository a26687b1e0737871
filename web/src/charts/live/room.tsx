import { PHASES } from '@rouse/core/aircraft';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { mono, upright } from '../../app/theme.ts';
import { RoomBar } from '../room-bar.tsx';
import { Small } from '../../ui/heading.ts';
import { usePulse } from '../../platform/pulse.ts';
import { ring } from '../../run/frame-ring.ts';
import { roomRows } from '../../run/room.ts';
import type { WatchedRun } from '../../run/run-slice.ts';

const Column = styled.aside`
  grid-area: right;
  border-left: 1px solid var(--line);
  background: var(--sheet);
  padding: 12px 16px;
  overflow: auto;
`;

const Row = styled.li`
  padding: 7px 16px 8px;
  margin: 0 -16px;
  border-bottom: 1px solid var(--hair);
  > div:first-child {
    display: flex;
    align-items: baseline;
    flex-wrap: wrap;
    gap: 2px 8px;
  }
  .name {
    font-size: 0.84375rem;
    width: 4.875rem;
    flex: none;
    color: var(--soft);
  }
  b {
    ${mono}
    font-size: 1.5rem;
    font-weight: 640;
    line-height: 1;
  }
  ${upright} {
    padding-block: 5px;
  }
  &[data-unknown] b {
    font-size: 1.125rem;
    font-weight: 500;
    color: var(--soft);
  }
  .unit,
  .remark {
    font-size: 0.78125rem;
    color: var(--soft);
    white-space: nowrap;
  }
  .remark {
    margin-left: auto;
  }
  &[data-near] {
    background: var(--caution-paper);
  }
  &[data-near] .remark {
    color: var(--caution);
    font-weight: 650;
  }
`;

/** Room to the limits: always the same rows in the same place. */
export function Room({ followed: { type, state } }: { followed: WatchedRun }) {
  const now_ms = usePulse(100);
  const status = useAppSelector((s) => s.run.status);
  const phase = PHASES.find((p) => p === state.phase) ?? 'off';
  const rows = roomRows(type, status, ring.lastFrame(now_ms), phase);
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Column aria-label="Room to the limits" tabIndex={0}>
      <Small>Room to the limits</Small>
      <ul>
        {rows.map((row) => (
          <Row
            key={row.channel.id}
            data-channel={row.channel.id}
            data-unknown={Number.isNaN(row.value) || undefined}
            data-near={row.near || undefined}
          >
            <div>
              <span className="name">{row.channel.short}</span>
              <b>{row.figure}</b>
              <span className="unit">{row.unit}</span>
              <span className="remark">{row.remark}</span>
            </div>
            <RoomBar range={row.range} limits={row.limits} value={row.value} />
          </Row>
        ))}
      </ul>
    </Column>
  );
}
