import type { Item, WatchedType } from '@rouse/core/aircraft';
import { isSpot, type Lesson } from '@rouse/core/drill';
import { findItem } from '@rouse/core/procedure';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { Button, Key } from '../../ui/button.tsx';
import { stopwatch } from '../../ui/words.ts';
import type { LessonControls } from './use-lesson.ts';
import { WAY_WORDS } from './words.ts';

const Card = styled.article`
  border: 2px solid var(--now);
  border-radius: 12px;
  background: var(--now-paper);
  padding: 12px 14px;
  display: grid;
  gap: 6px;
  header {
    display: flex;
    justify-content: space-between;
    color: var(--now);
    font-size: 0.8125rem;
    font-weight: 650;
    b {
      ${mono}
      font-size: 0.875rem;
    }
  }
  h2 {
    font-size: 1.25rem;
    line-height: 1.15;
    font-weight: 720;
  }
  p {
    font-size: 0.875rem;
  }
  strong {
    font-size: 1.0625rem;
    line-height: 1.2;
  }
`;

/** where everything is told, the item can be answered here */
const ALL_TOLD = 3;

interface LessonCardProps {
  type: WatchedType;
  lesson: Lesson;
  controls: LessonControls;
}

/** What is practised, and as much of the present item as the way of practice tells. */
export function LessonCard({ type, lesson, controls }: LessonCardProps) {
  const { drill, told, deciding, answer, decide } = controls;
  const { view } = drill;
  const item = view?.present == null ? undefined : findItem(type, view.present);
  return (
    <Card aria-label="The lesson">
      <header>
        <span>{WAY_WORDS[lesson.way]}</span>
        <b data-clock>{stopwatch(view?.since_s ?? 0)}</b>
      </header>
      <h2>{lesson.title}</h2>
      {told === 0 && <p>{lesson.aim}</p>}
      {item && <Told item={item} stage={view?.stage ?? null} told={told} />}
      {item && told >= ALL_TOLD && isSpot(type, item) && !deciding && (
        <Button onPress={() => answer(item)} data-answer>
          {view?.stage ? 'Done, next' : 'Seen, done or said'} <Key>↵</Key>
        </Button>
      )}
      {deciding && (
        <div role="group" aria-label={deciding.challenge}>
          <p>{deciding.challenge}</p>
          {deciding.alternatives.map((a) => (
            <Button key={a.id} onPress={() => decide(a.id)}>
              {a.label}
            </Button>
          ))}
        </div>
      )}
    </Card>
  );
}

/** Its zone, then what it is, then why. */
function Told({ item, stage, told }: { item: Item; stage: string | null; told: number }) {
  return (
    <>
      {told >= 1 && <p data-hint="zone">In the zone: {item.zone}</p>}
      {told >= 2 && (
        <p data-hint="item" data-item={item.id}>
          <strong>{item.challenge}</strong>
          <br />
          {stage ?? item.response}
        </p>
      )}
      {told >= 3 && <p data-hint="why">{item.why}</p>}
    </>
  );
}
