import type { Change } from '@rouse/core/drill';
import { useState } from 'react';
import styled from 'styled-components';
import { Button } from '../ui/button.tsx';
import { Aid, Small } from '../ui/heading.ts';
import { linearScale } from './scale.ts';

const Box = styled.section`
  display: grid;
  gap: 6px;
  align-content: start;
  min-height: 0;
  overflow: auto;
  select {
    min-height: 3rem;
    max-width: 100%;
    padding: 4px 8px;
    border-radius: 8px;
    border: 1.5px solid var(--button-line);
    background: var(--button);
    color: var(--ink);
    font: inherit;
  }
  > div {
    display: flex;
    gap: 8px;
    flex-wrap: wrap;
    align-items: center;
  }
  svg {
    width: 100%;
    height: auto;
    background: var(--deep);
    border-radius: 8px;
    font-size: 0.75rem;
  }
`;

const EARLIER_s = 2;

/** A line of the drawing; what was not seen is null or not a number. */
export interface WhatIfLine {
  t_s: ArrayLike<number>;
  values: ArrayLike<number | null>;
  how: 'recorded' | 'was' | 'would';
}

export interface WhatIfDrawn {
  label: string;
  unit: string;
  lines: readonly WhatIfLine[];
  /** from here on they are not the same; null where that is not known */
  differs_s: number | null;
  words: string;
}

interface WhatIfProps {
  acts: readonly { i: number; words: string }[];
  /** the clock of the drawing counts from here, s */
  begun_s: number;
  /** under the drawing: what its lines are */
  legend: string;
  answer: WhatIfDrawn | 'asked' | null;
  trouble?: string | null;
  ask: (change: Change) => void;
}

/** What if I had not? One act done otherwise, the curves in one drawing, and the sentence. */
export function WhatIfPanel({ acts, begun_s, legend, answer, trouble = null, ask }: WhatIfProps) {
  const [chosen, setChosen] = useState<number | null>(acts[0]?.i ?? null);
  if (chosen === null) return null;
  const asks = (how: Change['how'], by_s: number) => () => ask({ act: chosen, how, by_s });
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Box aria-label="What if I had not?" tabIndex={0}>
      <Small>What if I had not?</Small>
      <div>
        <select aria-label="The act" value={chosen} onChange={(e) => setChosen(Number(e.target.value))}>
          {acts.map(({ i, words }) => (
            <option key={i} value={i}>
              {words}
            </option>
          ))}
        </select>
        <Button onPress={asks('left-out', 0)}>Left out</Button>
        <Button onPress={asks('earlier', EARLIER_s)}>{EARLIER_s} s earlier</Button>
        <Button onPress={asks('later', EARLIER_s)}>{EARLIER_s} s later</Button>
      </div>
      {answer === 'asked' && <p role="status">It is flown again…</p>}
      {trouble !== null && answer !== 'asked' && <p role="alert">{trouble}</p>}
      {answer !== null && answer !== 'asked' && trouble === null && (
        <>
          <p role="status" data-would>
            {answer.words}.
          </p>
          <Curves drawn={answer} begun_s={begun_s} />
          <Aid>
            {answer.label} in {answer.unit} {legend}
          </Aid>
        </>
      )}
    </Box>
  );
}

const SIZE = { width: 680, height: 170, left: 44, right: 12, top: 12, bottom: 26 };
/** lines differ by weight and dash, not by their colour alone */
const LOOK: Readonly<Record<WhatIfLine['how'], { stroke: string; strokeWidth: number; strokeDasharray?: string }>> = {
  recorded: { stroke: 'var(--soft)', strokeWidth: 4 },
  was: { stroke: 'var(--ink)', strokeWidth: 2 },
  would: { stroke: 'var(--now)', strokeWidth: 2, strokeDasharray: '6 4' },
};

function Curves({ drawn: { label, lines, differs_s }, begun_s }: { drawn: WhatIfDrawn; begun_s: number }) {
  const all = lines.flatMap((l) => Array.from(l.values).filter(isSeen));
  const end_s = Math.max(...lines.map((l) => l.t_s[l.t_s.length - 1] ?? 0));
  const x = linearScale([begun_s, Math.max(begun_s + 1, end_s)], [SIZE.left, SIZE.width - SIZE.right]);
  const y = linearScale([Math.min(0, ...all), Math.max(1, ...all) * 1.05], [SIZE.height - SIZE.bottom, SIZE.top]);
  const path = ({ t_s, values }: WhatIfLine): string =>
    Array.from(t_s)
      .flatMap((t, i) => (isSeen(values[i]) ? [`${x(t).toFixed(1)} ${y(values[i]).toFixed(1)}`] : []))
      .map((at, i) => `${i === 0 ? 'M' : 'L'}${at}`)
      .join('');
  return (
    <svg viewBox={`0 0 ${SIZE.width} ${SIZE.height}`} role="img" aria-label={`${label}, as it was and as it would have been`}>
      {y.ticks(4).map((v) => (
        <g key={v}>
          <line x1={SIZE.left} x2={SIZE.width - SIZE.right} y1={y(v)} y2={y(v)} stroke="var(--grid)" />
          <text x={SIZE.left - 6} y={y(v) + 4} textAnchor="end" fill="var(--soft)">
            {v}
          </text>
        </g>
      ))}
      {x.ticks(6).map((t) => (
        <text key={t} x={x(t)} y={SIZE.height - 8} textAnchor="middle" fill="var(--soft)">
          {Math.round(t - begun_s)}
        </text>
      ))}
      {differs_s !== null && differs_s > begun_s && (
        <line x1={x(differs_s)} x2={x(differs_s)} y1={SIZE.top} y2={SIZE.height - SIZE.bottom} stroke="var(--soft)" strokeDasharray="2 3" data-differs />
      )}
      {lines.map((line) => (
        <path key={line.how} d={path(line)} fill="none" {...LOOK[line.how]} data-line={line.how} />
      ))}
    </svg>
  );
} // oxfmt-ignore

const isSeen = (value: number | null | undefined): value is number =>
  value !== null && value !== undefined && !Number.isNaN(value);
