import type { WatchedType } from '@rouse/core/aircraft';
import type { RecordingEvent, Scanned } from '@rouse/core/replay';
import { bindKeys } from '../../platform/keys.ts';
import { useEffect } from 'react';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { upright } from '../../app/theme.ts';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { Columns, PageHead } from '../../ui/columns.ts';
import { Aid, PREVAILS, Small } from '../../ui/heading.ts';
import { minutes, stopwatch } from '../../ui/words.ts';
import { SPEEDS } from './messages.ts';
import type { ReplayControls } from './use-replay.ts';
import { asWatched } from '../../run/run-slice.ts';
import { LiveDrawings } from '../../charts/live/drawings.tsx';
import { Room } from '../../charts/live/room.tsx';

const Grid = styled(Columns)`
  --left: 20rem;
  --head: auto;
  --foot: auto;
  ${upright} {
    --right: 17.5rem;
    grid-template-rows: auto auto minmax(26.25rem, 1fr) auto;
    height: 100%;
  }
`;

const Head = styled(PageHead)`
  flex-wrap: wrap;
  padding: 8px 20px;
  h1 {
    white-space: normal;
    overflow-wrap: anywhere;
  }
  > :last-child {
    margin-left: auto;
  }
`;

const Events = styled.section`
  grid-area: left;
  overflow: auto;
  padding: 14px 16px;
  border-right: 1px solid var(--line);
  background: var(--sheet);
  button {
    display: grid;
    grid-template-columns: 4.75rem minmax(0, 1fr);
    gap: 8px;
    width: 100%;
    min-height: 3rem;
    padding: 6px 4px;
    border: 0;
    border-top: 1px solid var(--hair);
    background: none;
    color: inherit;
    font: inherit;
    font-size: 0.875rem;
    text-align: left;
    align-items: center;
    cursor: pointer;
  }
  [data-severity='caution'] {
    color: var(--caution);
  }
  [data-severity='warning'] {
    color: var(--warning);
    font-weight: 650;
  }
  time {
    font-family: 'Atkinson Mono', monospace;
    color: var(--soft);
  }
  ${upright} {
    max-height: 26.25rem;
  }
`;

const Mid = styled.section`
  grid-area: mid;
  padding: 14px 16px;
  display: grid;
  grid-template-rows: auto minmax(0, 3fr) auto minmax(0, 1fr);
  gap: 10px;
  min-height: 0;
`;

const Foot = styled.footer`
  grid-area: foot;
  background: var(--rail);
  color: var(--rail-ink);
  display: flex;
  gap: 14px;
  align-items: center;
  flex-wrap: wrap;
  padding: 8px 20px;
  input[type='range'] {
    flex: 1;
    min-width: 12.5rem;
    min-height: 3rem;
    accent-color: var(--now);
  }
  select {
    min-height: 3rem;
    padding: 4px 8px;
    border-radius: 8px;
    font: inherit;
  }
  time {
    font-family: 'Atkinson Mono', monospace;
  }
`;

const STEP_S = 10;

interface Told {
  t_s: number;
  severity: 'call' | 'caution' | 'warning';
  text: string;
}

/** What of an event of the recording is read out in the list. */
function toldOf(e: RecordingEvent): Told[] {
  const { t_s } = e;
  switch (e.kind) {
    case 'cue':
      return [{ t_s, severity: e.severity, text: e.text }];
    case 'abort':
      return [{ t_s, severity: 'warning', text: e.text }];
    case 'gap':
      return [
        {
          t_s,
          severity: 'caution',
          text: `Nothing was recorded for ${e.for_s.toFixed(1)} s: what happened is unknown`,
        },
      ];
    case 'start-not-sought':
      return [{ t_s, severity: 'caution', text: e.text }];
    default:
      return [];
  }
}

interface PlayerScreenProps {
  type: WatchedType;
  controls: ReplayControls;
  scanned: Scanned;
  name: string;
}

/** A recorded run played again: what the watch says of it at the left, the same drawings as live, and the transport. */
export function PlayerScreen({ type, controls, scanned, name }: PlayerScreenProps) {
  const { replay, play, pause, setSpeed, remap } = controls;
  const followed = useAppSelector((s) => s.run.followed);
  const watched = followed && asWatched(followed);
  const told = scanned.events.flatMap(toldOf);
  useEffect(() => {
    const to = (t_s: number) => () => play(Math.min(scanned.end_s, Math.max(0, t_s)));
    return bindKeys([
      { keys: ['Space'], shown: 'Space', says: 'play or pause', run: () => (replay.playing ? pause() : play()) },
      { keys: ['ArrowLeft'], shown: '←', says: 'back', run: to(replay.t_s - STEP_S), held: true },
      { keys: ['ArrowRight'], shown: '→', says: 'forward', run: to(replay.t_s + STEP_S), held: true },
    ]);
  }, [replay.playing, replay.t_s, scanned.end_s, play, pause]);
  return (
    <Grid>
      <title>{`Replay ${name} · Rouse`}</title>
      <Head>
        <div>
          <h1>{name}</h1>
          <Aid>
            Replay, {type.name} · {scanned.rows.toLocaleString('en-GB')} rows, {minutes(scanned.end_s)}
            {scanned.repeated > 0 &&
              ` · ${scanned.repeated.toLocaleString('en-GB')} rows shared a time, and were spread`}
            {scanned.cutOff && ' · the last row was cut off'}
          </Aid>
        </div>
        <Button onPress={remap}>Change the mapping</Button>
      </Head>
      <Events aria-label="What the watch says of this file">
        <Small>What the watch says</Small>
        {told.length === 0 && <p>Nothing: no start and no limit was seen.</p>}
        {told.map((e, i) => (
          <button
            key={`${e.t_s} ${i}`}
            type="button"
            data-severity={e.severity}
            onClick={() => play(Math.max(0, e.t_s - 3))}
          >
            <time>{stopwatch(e.t_s)}</time>
            <span>{e.text}</span>
          </button>
        ))}
        <Beyond type={type} scanned={scanned} />
        {scanned.unkept > 0 && <p>And {scanned.unkept.toLocaleString('en-GB')} more events.</p>}
        <Aid>{PREVAILS}</Aid>
      </Events>
      <Mid aria-label="Drawings">{watched && <LiveDrawings followed={watched} />}</Mid>
      {watched && <Room followed={watched} />}
      <Foot>
        <PrimaryButton onPress={() => (replay.playing ? pause() : play())}>
          {replay.playing ? 'Pause' : 'Play'}
        </PrimaryButton>
        <time data-clock>
          {stopwatch(replay.t_s)} of {stopwatch(scanned.end_s)}
        </time>
        <input
          type="range"
          aria-label="Moment of the recording"
          min={0}
          max={Math.ceil(scanned.end_s)}
          step={1}
          value={Math.round(replay.t_s)}
          onChange={(e) => play(Number(e.target.value))}
        />
        <select aria-label="Speed" value={replay.speed} onChange={(e) => setSpeed(Number(e.target.value))}>
          {SPEEDS.map((s) => (
            <option key={s} value={s}>
              {s}×
            </option>
          ))}
        </select>
        <span>Recorded file, replayed</span>
      </Foot>
    </Grid>
  );
}

/** Readings that no gauge of theirs could show. */
function Beyond({ type, scanned }: Pick<PlayerScreenProps, 'type' | 'scanned'>) {
  return scanned.beyond.map(({ channel, rows }) => (
    <p key={channel}>
      {rows.toLocaleString('en-GB')} readings of {type.channels.find((c) => c.id === channel)!.label.toLowerCase()} are
      beyond its gauge, and taken as unknown.
    </p>
  ));
}
