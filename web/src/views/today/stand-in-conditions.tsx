import type { StandInState } from '@rouse/core/contract';
import { Label, Radio, RadioGroup } from 'react-aria-components';
import styled from 'styled-components';
import { useAppDispatch } from '../../app/store.ts';
import { choosePreset } from '../../app/today-slice.ts';
import { Small } from '../../parts/heading.ts';

/** Simulated things carry a dashed frame and the word, so that they cannot be taken for real ones. */
const Frame = styled.section`
  border: 2px dashed var(--coast);
  border-radius: 14px;
  padding: 18px 20px;
  background: var(--sheet);
`;

const Word = styled.span`
  background: var(--land);
  color: var(--coast-ink);
  border-radius: 5px;
  padding: 1px 8px;
  font-weight: 700;
  font-size: 12.5px;
`;

const Choice = styled(Radio)`
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr);
  gap: 2px 12px;
  padding: 9px 8px;
  min-height: 48px;
  align-items: center;
  border-top: 1px solid var(--hair);
  cursor: pointer;
  border-radius: 6px;
  &::before {
    content: '';
    width: 16px;
    height: 16px;
    border-radius: 50%;
    border: 2px solid var(--button-line);
  }
  &[data-selected]::before {
    border: 5px solid var(--now);
  }
  &[data-focus-visible] {
    outline: 3px solid var(--now);
  }
  &[data-disabled] {
    opacity: 0.6;
    cursor: default;
  }
  small {
    grid-column: 2;
    color: var(--soft);
    font-size: 13px;
  }
`;

interface StandInConditionsProps {
  standIn: StandInState;
  /** the aircraft that it is wired to */
  tail: string;
  locked: boolean;
}

export function StandInConditions({ standIn, tail, locked }: StandInConditionsProps) {
  const dispatch = useAppDispatch();
  const without = standIn.preset === null;
  return (
    <Frame>
      <RadioGroup
        value={standIn.preset ?? ''}
        isDisabled={locked || without}
        onChange={(preset) => void dispatch(choosePreset(preset))}
      >
        <Label>
          <Small>
            Conditions of the stand-in of {tail} <Word>simulated</Word>
          </Small>
        </Label>
        {without && (
          <p role="status">
            The stand-in device does not answer. A run can still be begun: readings stay unknown and items are declared.
          </p>
        )}
        {locked && <p>They can be changed when the open run is closed.</p>}
        {standIn.presets.map((preset) => (
          <Choice key={preset.id} value={preset.id}>
            <span>{preset.label}</span>
            <small>{preset.note}</small>
          </Choice>
        ))}
      </RadioGroup>
    </Frame>
  );
}
