import { isWatched, type TypeFile } from '@rouse/core/aircraft';
import type { LessonsOfType, OwnLesson } from '@rouse/core/contract';
import { type Lesson, readLesson, writeLesson } from '@rouse/core/drill';
import { skipToken } from '@reduxjs/toolkit/query';
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import { useLessonsQuery } from '../../app/drill-data.ts';
import { troubleIn, useTodayQuery, useTypeQuery } from '../../app/server-data.ts';
import { useChangeMutation } from '../../app/session-data.ts';
import { mono } from '../../app/theme.ts';
import { readSetting, writeSetting } from '../../platform/storage.ts';
import { Button, PrimaryButton, SlimButton } from '../../ui/button.tsx';
import { Alert, inputLook } from '../../ui/field-look.ts';
import { Aid, Small } from '../../ui/heading.ts';
import { dayAndTime, minutes } from '../../ui/words.ts';
import { Card, Rows, SetUpPage } from './page.tsx';
import { useTryLesson } from './use-try-lesson.ts';

const Text = styled.textarea`
  ${mono}
  width: 100%;
  min-height: 20rem;
  padding: 10px 12px;
  border-radius: 8px;
  border: 1.5px solid var(--button-line);
  background: var(--sheet);
  color: var(--ink);
  font-size: 0.84375rem;
  line-height: 1.45;
  resize: vertical;
`;

const Line = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  align-items: end;
  ${inputLook}
  label {
    display: grid;
    gap: 4px;
    font-size: 0.78125rem;
    font-weight: 600;
    color: var(--soft);
  }
`;

/** Lessons that instructors write for their own people. */
export function LessonsSetUp() {
  const { data: today } = useTodayQuery();
  const [chosen, setChosen] = useState<string | null>(null);
  const types = [...new Map((today?.aircraft ?? []).map((a) => [a.type.id, a.type])).values()];
  const id = chosen ?? types[0]?.id;
  const { data, error } = useLessonsQuery(id ?? skipToken);
  const { data: type } = useTypeQuery(id && data ? { id, version: data.version } : skipToken);
  return (
    <SetUpPage
      title="Lessons"
      about="Twelve lessons come with each type. Your own stand beside them in Drill, for everybody here."
    >
      <Card>
        <Line>
          <label>
            Type
            <select value={id ?? ''} onChange={(e) => setChosen(e.target.value)}>
              {types.map((t) => (
                <option key={t.id} value={t.id}>
                  {t.name}
                </option>
              ))}
            </select>
          </label>
        </Line>
        {error && <Alert role="alert">{troubleIn(error)}</Alert>}
        {type && data && type.id === id && <OwnLessons key={id} type={type} lessons={data} />}
      </Card>
    </SetUpPage>
  );
}

function OwnLessons({ type, lessons: { shipped, own } }: { type: TypeFile; lessons: LessonsOfType }) {
  const draft = `lesson.${type.id}`;
  const [text, setText] = useState(() => readSetting(draft) ?? '');
  const [change] = useChangeMutation();
  const write = (to: string): void => {
    setText(to);
    writeSetting(draft, to);
  };
  return (
    <>
      <Small>Your own</Small>
      {own.length === 0 && <p>None yet. Begin with one that is there, and change it.</p>}
      <Rows aria-label="Your own lessons">
        {own.map((lesson) => (
          <OwnRow key={lesson.id} lesson={lesson} open={() => write(lesson.text)} remove={() => void change({ method: 'DELETE', path: `/lessons/${type.id}/${lesson.id}` })} />
        ))}
      </Rows>
      <Line>
        <label>
          Begin with
          <select value="" onChange={(e) => write(begun(shipped.find((l) => l.id === e.target.value)!))}>
            <option value="">choose a lesson</option>
            {shipped.map((l) => (
              <option key={l.id} value={l.id}>
                {l.title}
              </option>
            ))}
          </select>
        </label>
      </Line>
      {text !== '' && <Write type={type} text={text} write={write} />}
    </>
  );
} // oxfmt-ignore

/** A lesson of one's own wants a name of its own. */
const begun = (lesson: Lesson): string => writeLesson({ ...lesson, id: `own-${lesson.id}` });

function OwnRow({ lesson, open, remove }: { lesson: OwnLesson; open: () => void; remove: () => void }) {
  return (
    <li>
      <span>
        <b>{lesson.id}</b>{' '}
        <small>
          written by {lesson.by}, {dayAndTime(lesson.at)}
        </small>
        {lesson.problems.length > 0 && (
          <small data-unfit> · does not fit the present version: {lesson.problems.join('; ')}</small>
        )}
      </span>
      <SlimButton onPress={open}>Open</SlimButton>
      <SlimButton onPress={remove}>Delete</SlimButton>
    </li>
  );
}

function Write({ type, text, write }: { type: TypeFile; text: string; write: (to: string) => void }) {
  const { lesson, problems } = useMemo(() => readLesson(type, text), [type, text]);
  const { tried, flies, tryIt } = useTryLesson();
  const [keep, { error, isLoading, isSuccess }] = useChangeMutation();
  return (
    <>
      <Small as="label" htmlFor="lesson-text">
        The lesson
      </Small>
      <Text id="lesson-text" value={text} spellCheck={false} onChange={(e) => write(e.target.value)} />
      <div role="status">
        {problems.length === 0 ? (
          <p>It fits {type.name}.</p>
        ) : (
          <ul aria-label="Problems">
            {problems.map((words) => (
              <li key={words} data-problem>
                {words}
              </li>
            ))}
          </ul>
        )}
      </div>
      <Line>
        <Button isDisabled={!lesson || !isWatched(type) || flies} onPress={() => lesson && isWatched(type) && tryIt({ type, lesson })}>
          {flies ? 'A simulated learner flies it…' : 'Try it'}
        </Button>
        <PrimaryButton isDisabled={!lesson || isLoading} onPress={() => lesson && void keep({ method: 'PUT', path: `/lessons/${type.id}/${lesson.id}`, body: { text } })}>
          Keep it
        </PrimaryButton>
        {isSuccess && <p role="status">Kept. It stands in Drill now.</p>}
      </Line>
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
      {tried && 'refused' in tried && <Alert role="alert">It cannot be flown: {tried.refused}</Alert>}
      {tried && !('refused' in tried) && (
        <p role="status" data-tried={tried.sum}>
          A learner who does everything right {tried.through ? `is through after ${minutes(tried.took_s)}` : 'does not come to its end'}, with {tried.sum} of 100.
          {tried.struck.length > 0 && ` Struck: ${tried.struck.join(', ')}.`}
          {tried.lost.length > 0 && ` Lost by: ${tried.lost.slice(0, 3).join('; ')}.`}
        </p>
      )}
      <Aid>Fields and their meaning are in the formats page; faults are named as in the conditions of the type.</Aid>
    </>
  );
} // oxfmt-ignore
