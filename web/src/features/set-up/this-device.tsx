import { useEffect, useState } from 'react';
import styled from 'styled-components';
import { type Answers, ANSWERS, answersChanged, TEXT_SIZES, textSizeChanged } from '../../app/settings-slice.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { hearsOnDevice } from '../../platform/hearing.ts';
import { inputLook } from '../../ui/field-look.ts';
import { Aid, Small } from '../../ui/heading.ts';
import { Card } from './page.tsx';

const Choice = styled.label`
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 4px;
  font-size: 0.875rem;
  justify-items: start;
  ${inputLook}
`;

const ANSWERED_BY: Record<Answers, string> = {
  hand: 'keys and touch',
  headset: 'these, and a headset’s button',
  words: 'these, and three spoken words',
};

/** What is set for this device alone, whoever holds it. */
export function ThisDevice() {
  const { textSize, answers } = useAppSelector((s) => s.settings);
  const dispatch = useAppDispatch();
  const [hears, setHears] = useState(false);
  useEffect(() => {
    let gone = false;
    void hearsOnDevice().then((can) => !gone && setHears(can));
    return () => {
      gone = true;
    };
  }, []);
  return (
    <Card>
      <Small>This device</Small>
      <Choice>
        Size of text
        <select
          value={textSize}
          onChange={(e) => dispatch(textSizeChanged(TEXT_SIZES.find((size) => String(size) === e.target.value) ?? 1))}
        >
          {TEXT_SIZES.map((size) => (
            <option key={size} value={size}>
              {100 * size} %
            </option>
          ))}
        </select>
      </Choice>
      <Choice>
        In a run, answered by
        <select
          value={answers}
          onChange={(e) => dispatch(answersChanged(ANSWERS.find((by) => by === e.target.value) ?? 'hand'))}
        >
          {ANSWERS.filter((by) => by !== 'words' || hears || answers === 'words').map((by) => (
            <option key={by} value={by}>
              {ANSWERED_BY[by]}
            </option>
          ))}
        </select>
      </Choice>
      <Aid>
        A headset’s button says “seen”. The words are “seen”, “fault” and “stop”, each said alone.{' '}
        {hears
          ? 'They are recognised on this device: nothing that is said leaves it.'
          : 'This browser does not recognise speech on the device, so they are not offered: what is said on a ramp is sent nowhere.'}
      </Aid>
    </Card>
  );
}
