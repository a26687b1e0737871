import { Check } from 'lucide-react';
import { Link } from 'react-router';
import styled from 'styled-components';
import { useTodayQuery } from '../../../app/server-data.ts';
import type { Open } from './open.ts';
import { type GuideStep, stepsOf } from './guide-steps.ts';
import type { DraftDesk } from './use-draft.ts';

const Strip = styled.section`
  grid-area: guide;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
  padding: 8px 20px 10px;
  ol {
    list-style: none;
    margin: 0;
    padding: 0;
    display: flex;
    gap: 6px;
    overflow: auto;
  }
  button {
    all: unset;
    box-sizing: border-box;
    cursor: pointer;
    white-space: nowrap;
    display: flex;
    gap: 6px;
    align-items: center;
    min-height: 2.5rem;
    padding: 0 12px;
    border: 1px solid var(--button-line);
    border-radius: 20px;
    font-size: 0.84375rem;
  }
  button[aria-current] {
    background: var(--now-paper);
    border: 2px solid var(--now);
    font-weight: 680;
  }
  button:focus-visible {
    outline: 2px solid var(--now);
    outline-offset: -4px;
  }
  p {
    font-size: 0.84375rem;
    margin-top: 6px;
  }
`;

interface GuideProps {
  desk: DraftDesk;
  open: Open;
  setOpen: (open: Open) => void;
}

/** The way of a new type from nothing to its first run, in eight steps; the one that is open is explained. */
export function Guide({ desk, open, setOpen }: GuideProps) {
  const { data: today } = useTodayQuery();
  const { typeId, version, status } = desk.row!;
  const tail = today?.aircraft.find((a) => a.type.id === typeId && a.type.version === version);
  const steps = stepsOf(desk, tail !== undefined);
  const file = typeof open === 'string' ? null : open.file;
  const here = steps.findIndex((s) => s.files.includes(file ?? ''));
  const next = steps.findIndex((s) => !s.done);
  const at = here >= 0 && (status === 'open' || next < 6) ? here : next < 0 ? steps.length - 1 : next;
  const step = steps[at]!;
  return (
    <Strip aria-label="From nothing to the first run, in eight steps">
      <ol>
        {steps.map((s, i) => (
          <li key={s.label}>
            <button
              type="button"
              data-step={i + 1}
              data-done={s.done}
              aria-current={i === at ? 'step' : undefined}
              onClick={() => setOpen(placeOf(s))}
            >
              {s.done ? <Check size={15} aria-label="done" /> : <span>{i + 1}</span>}
              {s.label}
            </button>
          </li>
        ))}
      </ol>
      <p>
        Step {at + 1} of {steps.length}: {step.what}{' '}
        {at === steps.length - 1 &&
          (tail ? (
            <Link to={`/brief/${tail.aircraft}`}>Brief {tail.tail}</Link>
          ) : (
            status === 'released' && <Link to="/types">Add a tail</Link>
          ))}
      </p>
    </Strip>
  );
}

const placeOf = ({ files }: GuideStep): Open => (files[0] === undefined ? 'trial' : { file: files[0] });
