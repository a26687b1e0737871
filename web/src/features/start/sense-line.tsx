import { channelsOf, isWatched, type Item, sayCondition } from '@rouse/core/aircraft';
import {
  askOf,
  conditionOf,
  finalScan,
  notReadyBecause,
  powerNow,
  readItem,
  type Reading,
  sayPower,
} from '@rouse/core/procedure';
import type { ReactNode } from 'react';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { minutes } from '../../ui/words.ts';
import { usePulse } from '../../platform/pulse.ts';
import { dwell_s, waitEstimate } from '../../run/estimates.ts';
import { runClock } from '../../run/clock.ts';
import { ring } from '../../run/frame-ring.ts';
import type { FollowedRun, LiveStatus } from '../../run/run-slice.ts';

const Sense = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 10px;
  background: var(--usual1);
  border-radius: 9px;
  padding: 8px 11px;
  min-height: 3.375rem;
  font-size: 0.90625rem;
  b {
    ${mono}
    font-size: 1.25rem;
    white-space: nowrap;
  }
  span {
    flex: 1 1 6.875rem;
  }
  em {
    display: block;
    ${mono}
    font-size: 1.25rem;
    font-style: normal;
    font-weight: 680;
  }
  &[data-verdict='false'] {
    background: var(--caution-paper);
  }
  &[data-verdict='unknown'] {
    background: none;
    border: 1.5px dashed var(--button-line);
  }
`;

interface SenseLineProps {
  followed: FollowedRun;
  item: Item;
  status: LiveStatus | null;
}

/** What the sensors say of the present item, against what is asked of it. */
export function SenseLine(props: SenseLineProps) {
  const now_ms = usePulse(100);
  const { followed, item, status } = props;
  const frame = ring.lastFrame(now_ms);
  const computed = computedOf(followed, item, frame, runClock(status, followed.detail.openedAt));
  if (computed) return computed;
  if (item.kind === 'call') return <Sense>“{item.say}”</Sense>;
  if (item.kind === 'watch') return <WatchSense {...props} item={item} frame={frame} />;
  if (askOf(item, followed).kind === 'measured') return <Sense>Measured from the readings: no word settles it.</Sense>;
  const reading = readItem(followed.type, item, frame);
  if (reading && followed.detail.source !== 'by-hand') return <ReadingSense {...props} reading={reading} />;
  const condition = conditionOf(item);
  return (
    <Sense>
      {condition ? `${sayCondition(condition, followed.type.channels)}: ` : ''}taken at your word
      {reading ? ', or at what you read.' : '. Nothing senses this.'}
    </Sense>
  );
}

/** The speed that a start, or the run-up, waits for. */
function WatchSense({
  followed: { type },
  item,
  status,
  frame,
}: SenseLineProps & { item: Extract<Item, { kind: 'watch' }>; frame: Float64Array }) {
  if (!isWatched(type)) return <Sense>Timed by hand.</Sense>;
  const at = type.startWatches.findIndex((w) => w.id === item.watch);
  const spec = type.startWatches[at];
  const start = status?.watch?.starts[at];
  const index = type.channels.findIndex((c) => c.id === (spec ? spec.channels.speed : type.runUpWatch.rotor));
  const value = frame[index]!;
  const rate = start?.speedRate_pct_s ?? NaN;
  const idles = start?.milestones.find((m) => !m.met)?.id === 'idle';
  const target = spec ? (idles ? spec.idle_pct[0] : spec.starterRelease_pct) : type.runUpWatch.rotor_pct[0];
  const in_s = spec && rate > 0.3 && target > value ? (target - value) / rate : NaN;
  const unknown = Number.isNaN(value);
  return (
    <Sense data-verdict={unknown ? 'unknown' : undefined}>
      <b>{unknown ? 'unknown' : value.toFixed(1)}</b>
      <span>
        % {type.channels[index]!.short}
        {spec?.kind === 'turbine' && Number.isFinite(rate) && !unknown ? `, ${sayRate(rate)} a second` : ''}
        {Number.isFinite(in_s) && (
          <>
            <br />
            {target} % expected in {Math.ceil(in_s)} s
          </>
        )}
      </span>
    </Sense>
  );
}

const sayRate = (rate: number): string => `${rate >= 0 ? '+' : ''}${rate.toFixed(1)}`;

/** A reading against what is asked, and how long it still has to last. */
function ReadingSense({ followed, item, status, reading }: SenseLineProps & { reading: Reading }) {
  const condition = conditionOf(item);
  const lasts_s = dwell_s(status, item);
  const left_s = lasts_s === null && item.kind === 'wait' ? leftOf(followed, item, status) : 0;
  const waits = item.kind === 'wait' && reading.verdict !== 'unknown';
  const asked = item.kind === 'count' ? `${item.captions.length} expected` : '';
  return (
    <Sense data-verdict={waits ? 'waiting' : String(reading.verdict)}>
      <b>{reading.words}</b>
      <span>
        {condition ? sayCondition(condition, followed.type.channels) : asked}
        {reading.verdict === 'unknown' && (
          <>
            <br />
            no reading
          </>
        )}
        {lasts_s !== null && item.kind === 'wait' && <em data-lasts>{minutes(lasts_s)} more</em>}
        {left_s > 0 && (
          <>
            <br />
            about {minutes(left_s)}
          </>
        )}
      </span>
    </Sense>
  );
}

function leftOf(followed: FollowedRun, item: Extract<Item, { kind: 'wait' }>, status: LiveStatus | null): number {
  return forecastOf(item, status) ?? waitEstimate(followed, item, null)?.seconds ?? 0;
}

/** What the program itself makes of an item that no single channel senses: power, or the last look. */
function computedOf(followed: FollowedRun, item: Item, frame: Float64Array, t_s: number): ReactNode {
  const { type, state } = followed;
  const felt = followed.detail.source === 'by-hand' ? null : frame;
  if (item.kind === 'check' && item.judges === 'power') {
    const { words, hovers } = sayPower(powerNow(type, state, felt, t_s));
    return (
      <Sense data-verdict={String(hovers ?? 'unknown')}>
        <span>{words}</span>
      </Sense>
    );
  }
  if (item.kind !== 'call' || item.judges !== 'final-scan') return null;
  const lines = finalScan(type, state, felt, t_s);
  const not = notReadyBecause(lines);
  return (
    <Sense data-verdict={String(not === null)}>
      <span>
        “{item.say}”
        <br />
        {not
          ? `Not yet. ${not.label}: ${not.words}`
          : `${lines.filter((l) => l.verdict === true).length} of ${lines.length} lines good, none against it`}
      </span>
    </Sense>
  );
}

/** A wait for what a start is gated on: the watch's own forecast. */
function forecastOf(item: Extract<Item, { kind: 'wait' }>, status: LiveStatus | null): number | null {
  const waited = channelsOf(item.until);
  for (const start of status?.watch?.starts ?? [])
    for (const gate of start.gates) if (waited.includes(gate.channel) && gate.in_s !== null) return gate.in_s;
  return null;
}
