import type { AircraftToday } from '@rouse/core/contract';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { mono, phone, upright } from '../../app/theme.ts';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { clockTime, dayAndTime, minutes, outcomeInWords } from '../../ui/words.ts';
import { AllowedBar } from './allowed-bar.tsx';
import type { Attention } from './attention.ts';
import { LastStarts } from './last-starts.tsx';

/** The columns of the board, shared by its head and its rows. */
export const COLUMNS = '7rem 9.125rem minmax(17.875rem, 1fr) 6.125rem 11rem minmax(8.125rem, 0.6fr) 5.75rem';

const Row = styled.article`
  display: grid;
  grid-template-columns: ${COLUMNS};
  gap: 0 14px;
  align-items: center;
  min-height: 5.75rem;
  padding: 5px 18px 5px 15px;
  border-bottom: 1px solid var(--line);
  border-left: 3px solid transparent;
  background: var(--sheet);
  &[data-edge='warning'] {
    border-left-color: var(--warning);
  }
  &[data-edge='now'] {
    border-left-color: var(--now);
    background: var(--now-paper);
  }
  &[data-edge='caution'] {
    border-left-color: var(--caution);
  }
  h2 {
    font-size: 1.1875rem;
    font-weight: 720;
    white-space: nowrap;
  }
  p {
    font-size: 0.8125rem;
    color: var(--soft);
    line-height: 1.3;
  }
  > div {
    min-width: 0;
    display: grid;
    gap: 2px;
  }
  ${upright} {
    grid-template-columns: minmax(0, 1fr) minmax(0, 1.3fr) 6.875rem;
    grid-template-areas: 'who allows way' 'now allows ready' 'starts holds holds';
    gap: 8px 18px;
    padding: 12px 16px;
    > [data-part='who'] {
      grid-area: who;
    }
    > [data-part='now'] {
      grid-area: now;
    }
    > [data-part='allows'] {
      grid-area: allows;
    }
    > [data-part='ready'] {
      grid-area: ready;
    }
    > [data-part='starts'] {
      grid-area: starts;
    }
    > [data-part='holds'] {
      grid-area: holds;
    }
    > [data-part='way'] {
      grid-area: way;
    }
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr) 6.875rem;
    grid-template-areas: 'who way' 'now ready' 'allows allows' 'holds holds' 'starts starts';
    padding: 12px;
  }
`;

const Now = styled.b`
  font-size: 0.9375rem;
  font-weight: 680;
  &[data-weight='warning'] {
    color: var(--warning);
  }
  &[data-weight='now'] {
    color: var(--now);
  }
  &[data-weight='caution'] {
    color: var(--caution);
  }
`;

const Ready = styled.b`
  ${mono}
  font-size: 1.25rem;
  font-weight: 700;
`;

const Passage = styled.span`
  display: flex;
  align-items: center;
  gap: 3px;
  margin-top: 4px;
  i {
    width: 9px;
    height: 9px;
    border-radius: 50%;
    border: 1.5px solid var(--soft);
  }
  i[data-status='done'] {
    background: var(--ink);
    border-color: var(--ink);
  }
  i[data-status='now'] {
    width: 12px;
    height: 12px;
    border: 3px solid var(--now);
  }
`;

/** One aircraft in one row: what it is, what today allows, when it could be ready, its last starts, what holds it, the way on. */
export function AircraftRow({ aircraft: a, attention, edge, now, first }: { aircraft: AircraftToday; attention: Attention; edge: boolean; now: string; first: boolean }) {
  const navigate = useNavigate();
  const { way, weight } = attention;
  const Way = weight === 'now' || (first && weight !== 'warning') ? PrimaryButton : Button;
  return (
    <Row aria-label={a.tail} data-edge={edge ? (weight ?? undefined) : undefined}>
      <div data-part="who">
        <h2>{a.tail}</h2>
        <p>
          {a.type.name}
          <br />
          {a.pad.split(',')[0]}
          {a.allows?.heading_deg != null && `, nose ${String(a.allows.heading_deg).padStart(3, '0')}`}
        </p>
      </div>
      <NowColumn a={a} weight={weight} />
      <div data-part="allows">
        <AllowedBar name="rotor wind" allowed={a.allows?.rotorWind ?? null} otherwise={a.allows ? '–' : 'being worked out'} />
        <AllowedBar name="power" allowed={a.allows?.power ?? null} otherwise={a.allows ? '–' : ''} />
        <AllowedBar name="engine out" allowed={a.allows?.engineOut ?? null} otherwise={a.allows ? 'comes down' : ''} />
      </div>
      <ReadyColumn a={a} now={now} held={weight === 'warning'} />
      <div data-part="starts">
        <LastStarts starts={a.starts} words={startWords(a)} />
      </div>
      <div data-part="holds">
        <Now data-weight={weight === 'now' ? undefined : (weight ?? undefined)} style={{ fontSize: '0.875rem' }}>
          {attention.title}
        </Now>
        <p>{attention.words}</p>
      </div>
      <div data-part="way">
        <Way onPress={() => void navigate(way.to)} autoFocus={first}>
          {way.label}
        </Way>
      </div>
    </Row>
  );
} // oxfmt-ignore

function NowColumn({ a, weight }: { a: AircraftToday; weight: Attention['weight'] }) {
  const [last] = a.recent;
  const ended = last?.closedAt ? `${outcomeInWords(last.outcome).toLowerCase()} ${dayAndTime(last.closedAt)}` : 'no run yet';
  if (a.running) {
    const present = a.running.legs.find((l) => l.status === 'now')?.label;
    return (
      <div data-part="now">
        <Now data-weight="now">Running{present && `, ${present.toLowerCase()}`}</Now>
        <p>
          {a.running.pilot}, since {clockTime(new Date(a.running.openedAt))}
        </p>
        <Passage aria-hidden>
          {a.running.legs.map((l) => (
            <i key={l.label} data-status={l.status} />
          ))}
        </Passage>
      </div>
    );
  }
  const hot = a.residual && a.residual.value_C > a.residual.limit_C;
  return (
    <div data-part="now">
      <Now data-weight={weight === 'warning' ? 'warning' : undefined}>
        {weight === 'warning' ? 'Held' : hot ? `Hot, ${a.residual!.label} ${Math.ceil(a.residual!.value_C)} °C` : a.residual ? `Cold, ${Math.round(a.residual.value_C)} °C` : lineWords(a)}
      </Now>
      <p>{hot ? openWords(a.residual!) : ended}</p>
    </div>
  );
} // oxfmt-ignore

const openWords = ({ startIn_min }: NonNullable<AircraftToday['residual']>): string =>
  startIn_min === null ? 'when its start opens is not known' : `start opens in ${startIn_min} min`;

function lineWords(a: AircraftToday): string {
  if (a.connected) return 'Standing';
  return a.wired ? 'Nothing connected' : 'By hand';
}

function ReadyColumn({ a, now, held }: { a: AircraftToday; now: string; held: boolean }) {
  if (!a.allows) return <div data-part="ready" />;
  const { ready_s, heldBy } = a.allows;
  const by = heldBy ? `held by ${heldBy.charAt(0).toLowerCase()}${heldBy.slice(1)}` : '';
  if (held)
    return (
      <div data-part="ready">
        <Ready style={{ color: 'var(--soft)' }}>{minutes(ready_s)}</Ready>
        <p>once it is settled</p>
      </div>
    );
  if (a.running) return <div data-part="ready" />;
  return (
    <div data-part="ready">
      <Ready>{clockTime(new Date(Date.parse(now) + 1000 * ready_s))}</Ready>
      <p>
        in {minutes(ready_s)}, {by}
      </p>
    </div>
  );
}

function startWords(a: AircraftToday): string {
  if (!a.starts) return a.recent.length > 0 ? 'being worked out' : 'no start yet';
  const value = a.starts.values.at(-1)!;
  const unit = a.starts.unit === 's' ? ', seconds to fire' : '';
  if (a.starts.limit && (a.starts.worse === 'low' ? value < a.starts.limit.at : value > a.starts.limit.at)) return 'past its limit'; // oxfmt-ignore
  if (!a.starts.usual) return `too few to tell${unit}`;
  const [low, high] = a.starts.usual;
  return value > high ? `above its usual${unit}` : value < low ? `below its usual${unit}` : `as usual${unit}`;
}
