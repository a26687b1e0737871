import type { TypeFile } from '@rouse/core/aircraft';
import type { Debrief } from '@rouse/core/contract';
import type { Moment } from '@rouse/core/debrief';
import { type Entry, sayEntry } from '@rouse/core/procedure';
import { useState } from 'react';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { SlimButton } from '../../ui/button.tsx';
import { Small } from '../../ui/heading.ts';
import { minutes } from '../../ui/words.ts';

const Column = styled.section`
  grid-area: left;
  border-right: 1px solid var(--line);
  background: var(--sheet);
  padding: 14px 18px;
  overflow: auto;
  display: grid;
  gap: 14px;
  align-content: start;
`;

const Told = styled.button`
  display: grid;
  grid-template-columns: 3.25rem minmax(0, 1fr);
  width: calc(100% + 2.25rem);
  margin: 0 -18px;
  padding: 7px 18px 7px 15px;
  min-height: 3rem;
  border: 0;
  border-top: 1px solid var(--hair);
  border-left: 3px solid transparent;
  background: none;
  text-align: left;
  font-size: 0.90625rem;
  cursor: pointer;
  time {
    ${mono}
    color: var(--soft);
    font-size: 0.84375rem;
  }
  b {
    font-weight: 650;
  }
  small {
    display: block;
    color: var(--soft);
    font-size: 0.8125rem;
  }
  &[data-weight='warning'] {
    border-left-color: var(--warning);
  }
  &[data-weight='caution'] {
    border-left-color: var(--caution);
  }
  &[aria-pressed='true'] {
    background: var(--usual1);
  }
`;

const Leg = styled.details`
  border-top: 1px solid var(--line);
  > summary {
    display: flex;
    align-items: center;
    gap: 10px;
    min-height: 3rem;
    cursor: pointer;
    font-weight: 620;
    font-size: 0.90625rem;
  }
  > summary time {
    ${mono}
    margin-left: auto;
    color: var(--soft);
    font-size: 0.84375rem;
    font-weight: 400;
  }
`;

const Line = styled.li`
  display: grid;
  grid-template-columns: 3.25rem minmax(0, 1fr);
  padding: 6px 18px;
  margin: 0 -18px;
  border-top: 1px solid var(--hair);
  font-size: 0.90625rem;
  time {
    ${mono}
    color: var(--soft);
    font-size: 0.84375rem;
  }
  small {
    display: block;
    color: var(--soft);
    font-size: 0.8125rem;
  }
  &[data-stands] {
    background: var(--caution-paper);
  }
`;

const Title = styled.div`
  display: flex;
  align-items: baseline;
  justify-content: space-between;
`;

const FEATURE_OF_STATE: Record<string, string> = {
  accelerating: 'lightOff_s',
  'self-sustaining': 'selfSustaining_s',
  idle: 'idle_s',
};

interface StoryProps {
  type: TypeFile;
  debrief: Debrief;
  start: Debrief['starts'][number] | undefined;
  /** run clock that is looked at; null for none */
  at_s: number | null;
  look: (t_s: number | null) => void;
}

/** What mattered, what could be better, and the whole journal on demand. */
export function StoryColumn({ type, debrief, start, at_s, look }: StoryProps) {
  const { story, run } = debrief;
  const [open, setOpen] = useState(false);
  const byNumber = new Map(run.entries.map((e) => [e.seq, e]));
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Column tabIndex={0} aria-label="What happened">
      <div>
        <Small>What mattered</Small>
        {story.moments.length === 0 && <p>Nothing out of the ordinary.</p>}
        {story.moments.map((m) => (
          <MomentButton key={`${m.t_s}-${m.seq}-${m.title}`} moment={m} on={at_s === m.t_s} look={look} />
        ))}
      </div>
      {story.advice.length > 0 && (
        <div>
          <Small>Next time</Small>
          <ul>
            {story.advice.map((a) => (
              <Line key={a.words}>
                <time>{minutes(a.t_s)}</time>
                <span>{a.words}</span>
              </Line>
            ))}
          </ul>
        </div>
      )}
      <div>
        <Title>
          <Small>Journal</Small>
          <SlimButton aria-pressed={open} onPress={() => setOpen(!open)}>
            {open ? 'Close all' : 'Open all'}
          </SlimButton>
        </Title>
        {story.legs.map((leg) => (
          <Leg key={`${leg.leg}-${open}`} open={open}>
            <summary>
              {leg.label}
              <time>
                {minutes(leg.from_s)} to {minutes(leg.to_s)}, {minutes(leg.to_s - leg.from_s)}
              </time>
            </summary>
            <ol>
              {leg.seqs.map((seq) => (
                <JournalLine key={seq} type={type} entry={byNumber.get(seq)!} start={start} />
              ))}
            </ol>
          </Leg>
        ))}
      </div>
    </Column>
  );
}

function MomentButton({ moment, on, look }: { moment: Moment; on: boolean; look: StoryProps['look'] }) {
  return (
    <Told type="button" data-weight={moment.weight} aria-pressed={on} onClick={() => look(on ? null : moment.t_s)}>
      <time>{minutes(moment.t_s)}</time>
      <span>
        <b>{moment.title}</b>
        {moment.words && <small>{moment.words}</small>}
      </span>
    </Told>
  );
}

/** One entry of the journal, with the usual time beside each moment of the start. */
function JournalLine({ type, entry, start }: { type: TypeFile; entry: Entry; start: StoryProps['start'] }) {
  const words = sayEntry(type, entry);
  if (!words) return null;
  const detail = usualOf(entry, start) || words.detail;
  return (
    <Line data-stands={words.stands || undefined}>
      <time>{minutes(entry.t)}</time>
      <span>
        {words.title}
        {detail && <small>{detail}</small>}
      </span>
    </Line>
  );
}

function usualOf(entry: Entry, start: StoryProps['start']): string {
  const compared =
    entry.kind === 'start-state' && start?.compared.find((c) => c.spec.id === FEATURE_OF_STATE[entry.state]);
  if (!compared || compared.value === null) return '';
  const range = compared.usual ? `, usual ${compared.usual.low.toFixed(1)} to ${compared.usual.high.toFixed(1)}` : '';
  return `${compared.value.toFixed(1)} s${range}`;
}
