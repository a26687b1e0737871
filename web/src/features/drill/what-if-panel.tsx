import type { WatchedType } from '@rouse/core/aircraft';
import type { Act, Change, TimedAct, WhatIf } from '@rouse/core/drill';
import { findItem } from '@rouse/core/procedure';
import type { Trace } from '@rouse/core/trace';
import { useState } from 'react';
import styled from 'styled-components';
import { linearScale } from '../../charts/scale.ts';
import { Button } from '../../ui/button.tsx';
import { Aid, Small } from '../../ui/heading.ts';
import { stopwatch } from '../../ui/words.ts';

const Box = styled.section`
  display: grid;
  gap: 6px;
  align-content: start;
  min-height: 0;
  overflow: auto;
  select {
    min-height: 48px;
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
    font-size: 12px;
  }
`;

const TICKS_PER_S = 50;
const EARLIER_s = 2;

interface WhatIfPanelProps {
  type: WatchedType;
  acts: readonly TimedAct[];
  begun_s: number;
  what: WhatIf | 'asked' | null;
  ask: (change: Change) => void;
}

/** What if I had not? One act done otherwise, both curves in one drawing, and the sentence. */
export function WhatIfPanel({ type, acts, begun_s, what, ask }: WhatIfPanelProps) {
  const choices = acts.flatMap(({ tick, act }, i) => {
    const words = sayAct(type, act);
    return words === null ? [] : [{ i, words: `${stopwatch(Math.max(0, tick / TICKS_PER_S - begun_s))} ${words}` }];
  });
  const [chosen, setChosen] = useState<number | null>(choices[0]?.i ?? null);
  if (chosen === null) return null;
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Box aria-label="What if I had not?" tabIndex={0}>
      <Small>What if I had not?</Small>
      <div>
        <select aria-label="The act" value={chosen} onChange={(e) => setChosen(Number(e.target.value))}>
          {choices.map(({ i, words }) => (
            <option key={i} value={i}>
              {words}
            </option>
          ))}
        </select>
        <Button onPress={() => ask({ act: chosen, how: 'left-out', by_s: 0 })}>Left out</Button>
        <Button onPress={() => ask({ act: chosen, how: 'earlier', by_s: EARLIER_s })}>{EARLIER_s} s earlier</Button>
        <Button onPress={() => ask({ act: chosen, how: 'later', by_s: EARLIER_s })}>{EARLIER_s} s later</Button>
      </div>
      {what === 'asked' && <p role="status">It is flown again…</p>}
      {what !== null && what !== 'asked' && (
        <>
          <p role="status" data-would>
            {what.words}.
          </p>
          <Curves type={type} what={what} begun_s={begun_s} />
        </>
      )}
    </Box>
  );
}

function sayAct(type: WatchedType, act: Act): string | null {
  switch (act.kind) {
    case 'move': {
      const control = type.cockpit?.find((c) => c.id === act.control);
      const place = control?.positions.find((p) => p.to === act.to)?.label;
      return control && place !== undefined ? `${control.label} ${place}` : null;
    }
    case 'look':
      return findItem(type, act.item)?.challenge ?? null;
    case 'stop':
      return 'Stop';
    default:
      return null;
  }
}

const SIZE = { width: 680, height: 150, left: 44, right: 12, top: 12, bottom: 26 };

function Curves({
  type,
  what: { channel, was, would },
  begun_s,
}: {
  type: WatchedType;
  what: WhatIf;
  begun_s: number;
}) {
  const spec = type.channels.find((c) => c.id === channel)!;
  const all = [...was.columns[0]!, ...would.columns[0]!].filter((v) => !Number.isNaN(v));
  const end_s = Math.max(was.t_s.at(-1) ?? 0, would.t_s.at(-1) ?? 0);
  const x = linearScale([begun_s, Math.max(begun_s + 1, end_s)], [SIZE.left, SIZE.width - SIZE.right]);
  const y = linearScale([Math.min(0, ...all), Math.max(1, ...all) * 1.05], [SIZE.height - SIZE.bottom, SIZE.top]);
  const path = ({ t_s, columns }: Trace): string =>
    [...t_s]
      .flatMap((t, i) => (Number.isNaN(columns[0]![i]!) ? [] : [`${x(t).toFixed(1)} ${y(columns[0]![i]!).toFixed(1)}`]))
      .map((at, i) => `${i === 0 ? 'M' : 'L'}${at}`)
      .join('');
  return (
    <>
      <svg
        viewBox={`0 0 ${SIZE.width} ${SIZE.height}`}
        role="img"
        aria-label={`${spec.label}, as it was and as it would have been`}
      >
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
        <path d={path(was)} fill="none" stroke="var(--ink)" strokeWidth="2" />
        <path d={path(would)} fill="none" stroke="var(--now)" strokeWidth="2" strokeDasharray="6 4" />
      </svg>
      <Aid>
        {spec.label} in {spec.unit} over seconds of the lesson: as it was, and dashed as it would have been.
      </Aid>
    </>
  );
}
