import { isAsked, type TypeFile } from '@rouse/core/aircraft';
import { operatorWay } from '@rouse/core/brief';
import { Label, Radio, RadioGroup } from 'react-aria-components';
import styled from 'styled-components';
import { troubleIn, useChooseWayMutation, useWaysQuery } from '../../app/server-data.ts';
import { useMay } from '../../app/session-data.ts';
import { Chapter } from './sheet.ts';

const Answer = styled(Radio)`
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr);
  gap: 2px 12px;
  padding: 8px;
  min-height: 2.75rem;
  align-items: center;
  border-top: 1px solid var(--hair);
  cursor: pointer;
  border-radius: 6px;
  font-size: 0.875rem;
  &::before {
    content: '';
    width: 15px;
    height: 15px;
    border-radius: 50%;
    border: 2px solid var(--button-line);
  }
  &[data-selected]::before {
    border: 5px solid var(--now);
  }
  &[data-focus-visible] {
    outline: 3px solid var(--now);
  }
  small {
    grid-column: 2;
    color: var(--soft);
    font-size: 0.8125rem;
  }
`;

/** The choices of a type, with the reason for each answer; the operator answers here, a run may differ with its reason. */
export function OperatorPolicy({ type }: { type: TypeFile }) {
  const { currentData: ways, error: unread } = useWaysQuery(type.id);
  const mayAdminister = useMay('administer');
  const [chooseWay, { error: refused }] = useChooseWayMutation();
  const trouble = troubleIn(refused) ?? troubleIn(unread);
  const wayOfOperator = (id: string): string | undefined => {
    const other = type.choices.find((c) => c.id === id);
    return other && ways ? operatorWay(other, ways) : undefined;
  };
  return (
    <Chapter id="ways">
      <h2>Ways of working</h2>
      <p>What the operator does. A pilot may differ for one run, with a reason that is kept in its journal.</p>
      {trouble !== null && <p role="alert">{trouble}</p>}
      {type.choices
        .filter((c) => !c.derived && isAsked(c, wayOfOperator))
        .map((c) => (
          <RadioGroup
            key={c.id}
            value={ways ? operatorWay(c, ways) : ''}
            isDisabled={!ways || !mayAdminister}
            onChange={(to) => void chooseWay({ type: type.id, version: type.version, choice: c.id, to })}
          >
            <Label>
              <h3>{c.question}</h3>
            </Label>
            {c.alternatives.map((a) => (
              <Answer key={a.id} value={a.id}>
                <span>{a.label}</span>
                <small>{a.why}</small>
              </Answer>
            ))}
          </RadioGroup>
        ))}
      {type.turnRound && (
        <>
          <h3>{type.turnRound.label}</h3>
          <p>
            {type.turnRound.items.length} items, only when:{' '}
            {type.turnRound.entry.map((e) => e.words.toLowerCase()).join('; ')}.
          </p>
        </>
      )}
    </Chapter>
  );
}
