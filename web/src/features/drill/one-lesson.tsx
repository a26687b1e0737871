import { isWatched } from '@rouse/core/aircraft';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import styled from 'styled-components';
import { useDrillsQuery } from '../../app/drill-data.ts';
import { troubleIn, useTypeQuery } from '../../app/server-data.ts';
import { AbortOrGo } from './abort-or-go.tsx';
import { LessonView } from './lesson.tsx';
import { HoverPractice } from './one-engine/hover-practice.tsx';
import { useOwnKeys } from './own-hands.ts';

const Message = styled.main`
  padding: 40px;
  display: grid;
  gap: 10px;
  align-content: center;
  justify-items: start;
`;

/** The lesson that the address names, by its way of practice. */
export function OneLesson() {
  const { type: id = '', version = '', lesson: wanted = '' } = useParams();
  const asked = { id, version: Number(version) };
  const navigate = useNavigate();
  const { data, error } = useTypeQuery(asked);
  const watched = data && isWatched(data) ? data : undefined;
  const { type } = useOwnKeys(watched);
  const { data: drills, error: drillError } = useDrillsQuery(asked);
  const lesson = drills?.lessons.find((l) => l.id === wanted);
  // as it was when the page was opened: the drill that is flown now does not join its own past
  const [openedAt] = useState(() => new Date().toISOString());
  const before = (drills?.flown ?? [])
    .filter((d) => d.lesson === wanted && d.at < openedAt)
    .map((d) => d.sum)
    .toReversed();
  const trouble = troubleIn(error ?? drillError);
  const leave = (): void => void navigate(`/drill?type=${id}`);
  if (trouble !== null || (data && drills && (!lesson || !watched)))
    return (
      <Message>
        <h1>This lesson cannot be flown</h1>
        <p role="alert">{trouble ?? `${id} has no lesson named ${wanted}.`}</p>
        <Link to="/drill">To the lessons</Link>
      </Message>
    );
  if (!type || !lesson) return <Message role="status">Reading the lesson…</Message>;
  if (lesson.way === 'abort-or-go') return <AbortOrGo type={type} lesson={lesson} leave={leave} />;
  if (lesson.way === 'one-engine') return <HoverPractice type={type} leave={leave} />;
  return <LessonView key={lesson.id} type={type} lesson={lesson} before={before} leave={leave} />;
}
