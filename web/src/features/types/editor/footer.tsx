import { memo } from 'react';
import styled from 'styled-components';
import { useMay } from '../../../app/session-data.ts';
import { Button, PrimaryButton } from '../../../ui/button.tsx';
import type { Open } from './open.ts';
import type { DraftDesk } from './use-draft.ts';

const Foot = styled.footer`
  grid-area: foot;
  background: var(--rail);
  color: var(--rail-on);
  display: flex;
  gap: 10px 16px;
  align-items: center;
  flex-wrap: wrap;
  padding: 10px 18px;
  color-scheme: dark;
  ul {
    list-style: none;
    margin: 0;
    padding: 0;
    flex: 1 1 20rem;
    min-width: 0;
    max-height: 6rem;
    overflow: auto;
    font-size: 0.84375rem;
  }
  ul button {
    all: unset;
    cursor: pointer;
    text-decoration: underline;
    text-underline-offset: 2px;
    padding: 5px 0;
    color: var(--rail-ink);
  }
  ul button:focus-visible {
    outline: 2px solid var(--rail-ink);
  }
  strong {
    font-weight: 650;
    color: var(--rail-ink);
  }
  label {
    font-size: 0.78125rem;
    color: var(--rail-ink);
    display: grid;
    gap: 2px;
  }
  input {
    font: inherit;
    color: var(--ink);
    background: var(--sheet);
    border: 1px solid var(--button-line);
    border-radius: 8px;
    padding: 7px 9px;
    min-height: 2.5rem;
  }
`;

/** What is wrong, each with a way to its place, and the way on: review by one, release by another. */
export function Footer({ desk, setOpen }: { desk: DraftDesk; setOpen: (open: Open) => void }) {
  const { compiled, isFresh, row, act } = desk;
  const problems = compiled?.problems ?? [];
  return (
    <Foot>
      <strong data-problems={compiled && isFresh ? problems.length : undefined}>
        {!compiled
          ? 'Reading…'
          : problems.length === 0
            ? 'No problems'
            : `${problems.length} problems; no release with them`}
      </strong>
      <ul aria-label="Problems">
        {problems.map((p, i) => (
          <li key={i}>
            <button type="button" onClick={() => setOpen({ file: p.file.replace(/^\.\.\/[^/]+\//, ''), line: p.line })}>
              {p.message}; {p.remedy} ({p.file}:{p.line})
            </button>
          </li>
        ))}
      </ul>
      {row!.status !== 'released' && (
        <WayOn
          row={row!}
          act={act}
          setOpen={setOpen}
          whole={compiled !== null && problems.length === 0}
          isFresh={isFresh}
        />
      )}
    </Foot>
  );
}

interface WayOnProps extends Pick<DraftDesk, 'act' | 'isFresh'> {
  row: NonNullable<DraftDesk['row']>;
  setOpen: (open: Open) => void;
  whole: boolean;
}

const WayOn = memo(({ row, act, isFresh, setOpen, whole }: WayOnProps) => {
  const mayRelease = useMay('release');
  const reviewing = row.status === 'in-review';
  return (
    <>
      {row.basedOn !== null && <Button onPress={() => setOpen('changes')}>Compare with version {row.basedOn}</Button>}
      {reviewing && (
        <span>
          Sent by {row.sentBy}. {mayRelease ? 'Read it and release it.' : 'An engineer reads it and releases it.'}
        </span>
      )}
      {reviewing && <Button onPress={() => void act('reopen')}>Back to writing</Button>}
      <PrimaryButton
        isDisabled={!whole || !isFresh || (reviewing && !mayRelease)}
        onPress={() => void act(reviewing ? 'release' : 'review')}
      >
        {reviewing ? 'Release' : 'Send to review'}
      </PrimaryButton>
    </>
  );
});
