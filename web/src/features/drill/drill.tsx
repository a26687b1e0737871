import { isWatched, type WatchedType } from '@rouse/core/aircraft';
import type { DrillMessage } from '@rouse/core/contract';
import type { Lesson } from '@rouse/core/drill';
import { skipToken } from '@reduxjs/toolkit/query';
import { useMemo, useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import styled from 'styled-components';
import { aircraftInHand } from '../../app/aircraft-in-hand.tsx';
import { useDrillsQuery } from '../../app/drill-data.ts';
import { useMay } from '../../app/session-data.ts';
import { troubleIn, useTodayQuery, useTypesOfTodayQuery } from '../../app/server-data.ts';
import { mono } from '../../app/theme.ts';
import { Button, buttonLook } from '../../ui/button.tsx';
import { Aid, PREVAILS, Small } from '../../ui/heading.ts';
import { dayAndTime } from '../../ui/words.ts';
import { Costs } from './costs.tsx';
import { DrillFrame, DrillHead, Side } from './drill-frame.tsx';
import { dueWords } from './due-words.ts';
import { WAY_WORDS } from './words.ts';

const Mid = styled.section`
  grid-area: mid;
  padding: 14px 18px;
  overflow: auto;
  min-width: 0;
  display: grid;
  align-content: start;
  gap: 14px;
`;

const Lessons = styled.ul`
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 20rem), 1fr));
  gap: 8px 14px;
  a {
    ${buttonLook}
    width: 100%;
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto;
    gap: 0 10px;
    justify-content: stretch;
    text-align: left;
    small {
      grid-column: 1 / -1;
      font-weight: 400;
      color: var(--soft);
      font-size: 0.78125rem;
    }
    b {
      ${mono}
    }
  }
`;

const CodeField = styled.input`
  ${mono}
  width: 100%;
  min-height: 3rem;
  padding: 4px 10px;
  border-radius: 8px;
  border: 1.5px solid var(--button-line);
  background: var(--button);
  color: var(--ink);
  font-size: 1.125rem;
  text-transform: uppercase;
`;

/** Everything that can be practised on one type: lessons by their way, what was made of them, what is due. */
export function DrillView() {
  const { types, failure } = useFleetTypes();
  const { data: today } = useTodayQuery();
  const [search, setSearch] = useSearchParams();
  const inHand = today && aircraftInHand(today.aircraft);
  const type = types?.find((t) => t.id === (search.get('type') ?? inHand?.type.id)) ?? types?.[0];
  const { data, error } = useDrillsQuery(type ? { id: type.id, version: type.version } : skipToken);
  const trouble = failure ?? troubleIn(error);
  const leads = useMay('oversee');
  return (
    <DrillFrame>
      <title>Drill · Rouse</title>
      <DrillHead>
        <h1>Drill</h1>
        <p>On the simulator: nothing here enters an aircraft’s record.</p>
        <p>{PREVAILS}</p>
      </DrillHead>
      <Side aria-label="Type" style={{ gridArea: 'left' }}>
        <Small>Aircraft</Small>
        {(types ?? []).map((t) => (
          <Button key={t.id} aria-pressed={t === type} onPress={() => setSearch({ type: t.id })}>
            {t.name} {t === type ? '· chosen' : ''}
          </Button>
        ))}
      </Side>
      <Mid aria-label="Lessons">
        {trouble !== null && <p role="alert">{trouble}</p>}
        {!data && trouble === null && <p role="status">Reading the lessons…</p>}
        {data?.lessons.length === 0 && <p>Nothing to practise: this type cannot be simulated.</p>}
        {type && data && <LessonsByWay type={type} message={data} />}
      </Mid>
      <Side aria-label="Your drills" style={{ gridArea: 'right' }}>
        {data && <Yours message={data} />}
        {type && data && <Costs type={type} costs={data.costs} />}
        <a href="/api/drill/record.pdf" download>
          Training record (PDF)
        </a>
        {type && <Link to={`/drill/${type.id}/${type.version}/hands`}>Keys and controller</Link>}
        {leads && <JoinLearner />}
      </Side>
    </DrillFrame>
  );
}

/** The watched types of the fleet, each once. */
function useFleetTypes(): { types: WatchedType[] | null; failure: string | null } {
  const { data, error } = useTodayQuery();
  const { data: types, error: typesError } = useTypesOfTodayQuery(data ? data.aircraft.map((a) => a.type) : skipToken);
  const watched = useMemo(
    () =>
      types?.filter((t, i): t is WatchedType => isWatched(t) && types.findIndex((o) => o.id === t.id) === i) ?? null,
    [types],
  );
  return { types: watched, failure: troubleIn(error ?? typesError) };
}

function LessonsByWay({ type, message }: { type: WatchedType; message: DrillMessage }) {
  const ways = [...new Set(message.lessons.map((l) => l.way))];
  return (
    <>
      {ways.map((way) => (
        <section key={way} aria-label={WAY_WORDS[way]}>
          <Small>{WAY_WORDS[way]}</Small>
          <Lessons>
            {message.lessons
              .filter((l) => l.way === way)
              .map((lesson) => (
                <li key={lesson.id}>
                  <LessonLink type={type} lesson={lesson} message={message} />
                </li>
              ))}
          </Lessons>
        </section>
      ))}
    </>
  );
}

function LessonLink({ type, lesson, message }: { type: WatchedType; lesson: Lesson; message: DrillMessage }) {
  const last = message.flown.find((d) => d.lesson === lesson.id);
  const due = message.due.find((d) => d.lesson === lesson.id);
  return (
    <Link to={`/drill/${type.id}/${type.version}/${lesson.id}`} data-lesson={lesson.id}>
      {lesson.title}
      <b>{last ? last.sum : '–'}</b>
      <small>
        {lesson.minutes} min{due ? ` · ${dueWords(due.due, message.now)}` : ' · not flown yet'}
      </small>
      <small>{lesson.aim}</small>
    </Link>
  );
}

/** An instructor looks on a learner's drill by the code that the learner reads out. */
function JoinLearner() {
  const navigate = useNavigate();
  const [code, setCode] = useState('');
  return (
    <form
      aria-label="Look on a learner’s drill"
      onSubmit={(e) => {
        e.preventDefault();
        if (code.trim() !== '') void navigate(`/drill/desk/${encodeURIComponent(code.trim().toUpperCase())}`);
      }}
    >
      <Small>Look on a drill</Small>
      <CodeField
        aria-label="Code of the learner"
        placeholder="K7M2QX"
        value={code}
        maxLength={6}
        onChange={(e) => setCode(e.target.value)}
      />
    </form>
  );
}

/** What is due, and what was flown last. */
function Yours({ message: { due, flown, lessons, now } }: { message: DrillMessage }) {
  const titleOf = (id: string): string => lessons.find((l) => l.id === id)?.title ?? id;
  return (
    <>
      <Small>Due next</Small>
      {due.length === 0 && <Aid>What you have flown comes back when it is about to be forgotten.</Aid>}
      <ul>
        {due.slice(0, 6).map((d) => (
          <li key={d.lesson} data-due={d.lesson}>
            {titleOf(d.lesson)} <Aid as="span">{dueWords(d.due, now)}</Aid>
          </li>
        ))}
      </ul>
      <Small>Flown</Small>
      {flown.length === 0 && <Aid>Nothing yet.</Aid>}
      <ul>
        {flown.slice(0, 12).map((d) => (
          <li key={d.id} data-flown={d.lesson}>
            {d.title}: <b>{d.sum}</b>
            <Aid>
              {dayAndTime(d.at)}
              {d.worst[0] === undefined ? '' : `; ${d.worst[0]}`}
            </Aid>
          </li>
        ))}
      </ul>
    </>
  );
}
