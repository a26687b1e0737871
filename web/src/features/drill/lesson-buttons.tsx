import type { Lesson } from '@rouse/core/drill';
import styled from 'styled-components';
import { Button, Key } from '../../ui/button.tsx';
import type { LessonControls } from './use-lesson.ts';

const Buttons = styled.div`
  display: grid;
  grid-template-columns: repeat(2, minmax(0, 1fr));
  gap: 6px;
  button {
    padding: 4px 6px;
    font-size: 0.8125rem;
    justify-content: space-between;
  }
`;

/** What can be done beside the controls while a lesson flies. */
export function LessonButtons({ lesson, controls }: { lesson: Lesson; controls: LessonControls }) {
  const { drill, act, hint, notGood } = controls;
  return (
    <Buttons>
      {lesson.way !== 'learn' && (
        <Button onPress={hint}>
          Hint <Key>H</Key>
        </Button>
      )}
      {(drill.view?.legs ?? []).map((leg) => (
        <Button key={leg.id} onPress={() => act({ kind: 'leg', leg: leg.id })}>
          {leg.label}
        </Button>
      ))}
      <Button onPress={() => act({ kind: 'stop' })} data-stop>
        Stop <Key>Esc</Key>
      </Button>
      <Button onPress={notGood}>
        Not good <Key>F</Key>
      </Button>
      <Button onPress={() => drill.freeze(!drill.frozen)} aria-pressed={drill.frozen}>
        {drill.frozen ? 'Go on' : 'Freeze'} <Key>Space</Key>
      </Button>
      <Button onPress={drill.end}>
        End <Key>⇧ E</Key>
      </Button>
    </Buttons>
  );
}
