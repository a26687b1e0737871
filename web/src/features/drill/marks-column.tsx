import { type DrillMarks, type Lesson, PASSED } from '@rouse/core/drill';
import { type CSSProperties, memo } from 'react';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { linearScale } from '../../charts/scale.ts';
import { Aid, Small } from '../../ui/heading.ts';
import { stopwatch } from '../../ui/words.ts';
import { DisputeMark } from './dispute-mark.tsx';
import { CRITERION_WORDS } from './words.ts';

const Sum = styled.p`
  display: flex;
  gap: 10px;
  align-items: baseline;
  font-size: 0.8125rem;
  color: var(--soft);
  b {
    ${mono}
    font-size: 2.625rem;
    line-height: 1;
    font-weight: 720;
    color: var(--ink);
  }
`;

const Criteria = styled.ul`
  list-style: none;
  padding: 0;
  li {
    padding: 6px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.875rem;
  }
  li > div {
    display: flex;
    justify-content: space-between;
  }
  b {
    ${mono}
  }
  i {
    display: block;
    height: 6px;
    margin-top: 3px;
    border-radius: 3px;
    background: linear-gradient(to right, var(--track) var(--share), var(--usual1) var(--share));
  }
`;

const Curve = styled.svg`
  width: 100%;
  background: var(--deep);
  border-radius: 6px;
`;

const COSTLY = 5;

interface MarksProps {
  lesson: Lesson;
  marks: DrillMarks;
  begun_s: number;
  over: boolean;
  /** sums of this lesson before, oldest first; none where it is another person's */
  before?: readonly number[];
  /** the own drill as it is kept: something can be said against its marks; null where it is not, or another person's */
  drill?: string | null;
}

/** The marks of a drill: what each thing is worth, and the five that cost most, each with its moment. */
export const MarksColumn = memo(function MarksColumn({
  lesson,
  marks,
  begun_s,
  over,
  before = [],
  drill = null,
}: MarksProps) {
  return (
    <>
      <Small>{over ? 'Marks' : 'Marks so far'}</Small>
      <Sum>
        <b data-sum>{marks.sum}</b> of 100{over ? '' : ', with what is done'}
      </Sum>
      <Criteria>
        {marks.criteria.map(({ criterion, got, of }) => (
          <li key={criterion} data-criterion={criterion}>
            <div>
              <span>{CRITERION_WORDS[criterion]}</span>
              <b>
                {got} of {of}
              </b>
            </div>
            <i aria-hidden style={{ '--share': `${(100 * got) / of}%` } as CSSProperties} />
          </li>
        ))}
        {marks.hints > 0 && (
          <li>
            <div>
              <span>Hints</span>
              <b>{marks.hints}, 2 each</b>
            </div>
          </li>
        )}
      </Criteria>
      {marks.losses.length > 0 && (
        <>
          <Small>What cost most</Small>
          <Criteria as="ol">
            {marks.losses.slice(0, COSTLY).map((loss, i) => (
              <li key={`${loss.t_s} ${i}`} data-loss={loss.criterion}>
                <div>
                  <span>{loss.words}</span>
                  <b>−{loss.points}</b>
                </div>
                <Aid>
                  {CRITERION_WORDS[loss.criterion]}, at {stopwatch(Math.max(0, loss.t_s - begun_s))}
                </Aid>
                {drill !== null && (
                  <DisputeMark drill={drill} mark={loss.words} t_s={Math.max(0, loss.t_s - begun_s)} />
                )}
              </li>
            ))}
          </Criteria>
        </>
      )}
      {before.length > 0 && <Before sums={before} now={marks.sum} />}
      {over && lesson.debrief.length > 0 && (
        <>
          <Small>To talk about</Small>
          {lesson.debrief.map((words) => (
            <Aid key={words}>{words}</Aid>
          ))}
        </>
      )}
    </>
  );
});

const SIZE = { width: 200, height: 64, pad: 8 };

/** This lesson before, and now: passed from eighty on. */
function Before({ sums, now }: { sums: readonly number[]; now: number }) {
  const all = [...sums, now];
  const x = linearScale([0, Math.max(1, all.length - 1)], [SIZE.pad, SIZE.width - SIZE.pad]);
  const y = linearScale([0, 100], [SIZE.height - SIZE.pad, SIZE.pad]);
  const said = `${sums.length} times before, last ${sums.at(-1)}; now ${now}. Passed from ${PASSED}`;
  return (
    <>
      <Small>This lesson before</Small>
      <Curve viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} role="img" aria-label={said} data-before={sums.length}>
        <rect x="0" width={SIZE.width} y={y(100)} height={y(PASSED) - y(100)} fill="var(--usual1)" />
        <polyline points={all.map((v, i) => `${x(i)},${y(v)}`).join(' ')} fill="none" stroke="var(--soft)" />
        {all.map((v, i) => (
          <circle
            key={i}
            cx={x(i)}
            cy={y(v)}
            r={i === all.length - 1 ? 5 : 3.5}
            fill={i === all.length - 1 ? 'var(--now)' : 'var(--ink)'}
          />
        ))}
      </Curve>
    </>
  );
}
