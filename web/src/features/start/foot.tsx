import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { mono, phone, tiny, upright } from '../../app/theme.ts';
import { Button, Key } from '../../ui/button.tsx';
import { minutes, stopwatch } from '../../ui/words.ts';
import { usePulse } from '../../platform/pulse.ts';
import { runClock } from '../../run/clock.ts';
import { ring } from '../../run/frame-ring.ts';
import type { FollowedRun } from '../../run/run-slice.ts';
import { PACES } from '@rouse/core/contract';
import type { Quality } from '@rouse/core/format';
import { postJson } from '../../platform/api.ts';
import { canStop, usePilot } from './pilot.ts';

const Bar = styled.footer`
  grid-area: foot;
  border-top: 1px solid var(--line);
  background: var(--rail);
  color: var(--rail-ink);
  display: flex;
  align-items: center;
  padding: 0 20px;
  gap: 16px;
  position: sticky;
  bottom: 0;
  z-index: 3;
  min-width: 0;
  > :nth-last-child(2) {
    margin-left: auto;
  }
  ${upright} {
    flex-wrap: wrap;
    padding: 5px 14px;
    gap: 4px 14px;
  }
  ${phone} {
    > [aria-pressed],
    > [data-source='live'] {
      display: none;
    }
  }
`;

const Call = styled.p`
  display: flex;
  align-items: baseline;
  flex-wrap: wrap;
  gap: 2px 12px;
  min-width: 0;
  line-height: 1.15;
  b {
    font-weight: 650;
    min-width: 0;
  }
  time {
    ${mono}
  }
  ${tiny} {
    time {
      display: none;
    }
  }
  ${upright} {
    flex: 1 0 100%;
    &:empty {
      display: none;
    }
  }
`;

const Quiet = styled.button`
  background: none;
  border: 0;
  min-height: 3rem;
  cursor: pointer;
  white-space: nowrap;
`;

const AbortButton = styled(Button)`
  min-height: 2.5rem;
  color: var(--warning);
  background: var(--warning-paper);
  border-color: transparent;
  font-weight: 700;
  white-space: nowrap;
`;

const Source = styled.span`
  white-space: nowrap;
  &[data-source='lost'],
  &[data-source='none'] {
    background: var(--warning-paper);
    color: var(--warning);
    padding: 3px 9px;
    border-radius: 6px;
    font-weight: 700;
  }
`;

/** over ten seconds; less is not worth a word */
const BAD_SHARE = 0.005;
const GAP_S = 0.3;
/** run clock; then a call has been heard */
const CALL_LASTS_S = 20;

const Kept = styled.span`
  background: var(--caution-paper);
  color: var(--caution);
  padding: 3px 9px;
  border-radius: 6px;
`;

const Hurry = styled.select`
  min-height: 2.5rem;
  padding: 2px 6px;
  border-radius: 8px;
  font: inherit;
  color: var(--ink);
  background: var(--button);
`;

/** The last call-out, where the data comes from, the voice, and the way to stop. */
export function Foot({ followed }: { followed: FollowedRun }) {
  const { state, detail } = followed;
  const voice = useAppSelector((s) => s.settings.voice);
  const pilot = usePilot();
  const engineOn = canStop(followed) && !state.abort && state.status === 'open';
  return (
    <Bar>
      <LastCall followed={followed} />
      <KeptLine />
      <SourceState source={detail.source} open={state.status === 'open'} />
      {detail.source === 'stand-in' && state.status === 'open' && <PaceSelect run={detail.run} />}
      <Quiet type="button" onClick={pilot.toggleVoice} aria-pressed={voice}>
        Voice {voice ? 'on' : 'off'} <Key>V</Key>
      </Quiet>
      <AbortButton data-stop isDisabled={!engineOn} onPress={() => void pilot.abort()}>
        {state.phase === 'start' || state.phase === 'off' ? 'Stop the start' : 'Stop the engine'} <Key>Esc</Key>
      </AbortButton>
    </Bar>
  );
}

/** What was called last, while it still matters: a call is over soon, a caution or a warning stays until the next word. */
function LastCall({ followed: { state, detail } }: { followed: FollowedRun }) {
  usePulse(1000);
  const status = useAppSelector((s) => s.run.status);
  const cue = state.lastCue;
  if (!cue)
    return (
      <Call>
        <b>Nothing called yet.</b>
      </Call>
    );
  const isOver = cue.severity === 'call' && runClock(status, detail.openedAt) - cue.t_s > CALL_LASTS_S;
  if (isOver) return <Call />;
  return (
    <Call>
      <time>{stopwatch(cue.t_s)}</time>
      <b data-cue={cue.severity}>{`“${cue.text}”`}</b>
    </Call>
  );
}

function SourceState({ source: from, open }: { source: FollowedRun['detail']['source']; open: boolean }) {
  const now_ms = usePulse(200);
  const connected = useAppSelector((s) => s.run.connected);
  const reported = useAppSelector((s) => s.run.status?.source ?? 'none');
  const quality = useAppSelector((s) => s.run.status?.quality ?? null);
  const unknown = useAppSelector((s) => s.run.status?.unknown ?? NONE);
  if (!open) return <Source>Run closed</Source>;
  if (from === 'by-hand') return <Source data-source="hand">By hand: nothing is sensed</Source>;
  const source = ring.fresh(now_ms) ? 'live' : reported === 'live' ? 'lost' : reported;
  const words = !connected
    ? 'Server not reached: readings unknown'
    : source === 'live'
      ? `${from === 'stand-in' ? 'Stand-in, simulated' : 'Unit'} · ${qualityWords(quality)}${unknownWords(unknown)}`
      : source === 'lost'
        ? 'No data: readings unknown'
        : 'No device: readings unknown';
  return <Source data-source={connected ? source : 'lost'}>{words}</Source>;
}

/** What is kept and not stored yet: on this page while the server is away, on the server's disk while its database is. */
function KeptLine() {
  const unsent = useAppSelector((s) => s.run.unsent);
  const outbox = useAppSelector((s) => s.run.status?.outbox ?? null);
  const words =
    unsent > 0
      ? `kept on this page: ${counted(unsent)}`
      : outbox?.disk
        ? `the disk of the server takes nothing: ${outbox.disk}`
        : outbox && outbox.away_s > 1
          ? `kept here, ${counted(outbox.waiting)}, database away for ${minutes(Math.floor(outbox.away_s))}`
          : null;
  return words && <Kept role="status">{words}</Kept>;
}

const counted = (entries: number): string => (entries === 1 ? '1 entry' : `${entries} entries`);

/** A good line is just live; a poor one says what is poor. */
function qualityWords(quality: Quality | null): string {
  if (!quality) return 'live';
  const parts = [
    ...(quality.bad_share > BAD_SHARE ? [`${(100 * quality.bad_share).toFixed(0)} % unreadable`] : []),
    ...(quality.gap_s > GAP_S ? [`gaps of ${quality.gap_s.toFixed(1)} s`] : []),
  ];
  return parts.length ? `poor line: ${parts.join(', ')}` : 'live';
}

const NONE: readonly string[] = [];

/** Names that the unit sends and nobody knows: what they say is lost, so they are told. */
function unknownWords(names: readonly string[]): string {
  if (names.length === 0) return '';
  return ` · unknown: ${names.slice(0, 3).join(', ')}${names.length > 3 ? ` and ${names.length - 3} more` : ''}`;
}

/** Waits of a simulated aircraft can be hurried; those of a real one cannot. */
function PaceSelect({ run }: { run: string }) {
  const pace = useAppSelector((s) => s.run.status?.pace ?? 1);
  return (
    <Hurry
      aria-label="Pace of the simulated aircraft"
      value={pace}
      onChange={(e) => {
        postJson('/stand-in/pace', { run, times: Number(e.target.value) }).catch(() => undefined);
      }}
    >
      {PACES.map((p) => (
        <option key={p} value={p}>
          {p}×
        </option>
      ))}
    </Hurry>
  );
}
