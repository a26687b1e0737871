import { memo } from 'react';
import styled from 'styled-components';
import { narrower } from '../../../app/theme.ts';
import type { Open } from './open.ts';
import type { PartLine } from './parts.ts';

const Parts = styled.nav`
  grid-area: nav;
  background: var(--sheet);
  border-right: 1px solid var(--line);
  padding: 10px 0;
  overflow: auto;
  font-size: 0.875rem;
  button {
    all: unset;
    box-sizing: border-box;
    width: 100%;
    min-height: 2.25rem;
    padding: 4px 12px 4px 16px;
    display: flex;
    gap: 8px;
    align-items: center;
    border-left: 4px solid transparent;
    cursor: pointer;
  }
  button:focus-visible {
    outline: 2px solid var(--now);
    outline-offset: -2px;
  }
  button[aria-current] {
    background: var(--now-paper);
    border-left-color: var(--now);
    font-weight: 680;
  }
  button[data-inner] {
    padding-left: 32px;
  }
  small {
    margin-left: auto;
    color: var(--soft);
  }
  b {
    color: var(--caution);
    background: var(--caution-paper);
    border-radius: 8px;
    padding: 0 8px;
    font-size: 0.78125rem;
  }
  h2 {
    font-size: 0.875rem;
    font-weight: 400;
    padding: 8px 12px 4px 20px;
  }
  ${narrower(68.75)} {
    max-height: 30vh;
  }
`;

interface NavProps {
  lines: readonly PartLine[];
  open: Open;
  setOpen: (open: Open) => void;
}

/** The parts of the type, each with how much it holds and how much is wrong in it. Drawn again when it says something else. */
export const Nav = memo(
  DrawnNav,
  (before, now) => before.open === now.open && JSON.stringify(before.lines) === JSON.stringify(now.lines),
);

function DrawnNav({ lines, open, setOpen }: NavProps) {
  const firstLeg = lines.find((p) => p.inProcedure);
  return (
    <Parts aria-label="Parts of the type">
      {lines.map((part) => (
        <div key={part.file}>
          {part === firstLeg && <h2>Procedure</h2>}
          <button
            type="button"
            data-part={part.file}
            data-inner={part.inProcedure}
            aria-current={typeof open !== 'string' && open.file === part.file ? 'page' : undefined}
            onClick={() => setOpen({ file: part.file })}
          >
            {part.label}
            <small>
              {part.wrong > 0 && <b aria-label={`${part.wrong} wrong`}>{part.wrong}</b>} {part.count}
            </small>
          </button>
        </div>
      ))}
      <button type="button" aria-current={open === 'changes' ? 'page' : undefined} onClick={() => setOpen('changes')}>
        What has changed
      </button>
      <button type="button" aria-current={open === 'trial' ? 'page' : undefined} onClick={() => setOpen('trial')}>
        Try it
      </button>
    </Parts>
  );
}
