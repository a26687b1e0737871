import { pistonOf, poweredOf, type TypeFile } from '@rouse/core/aircraft';
import { hoverAgainstLimit, type HoverFigure } from '@rouse/core/procedure';
import { LOW_HOVER_ft } from '@rouse/core/power';
import { attempt, isRefusal } from '@rouse/core/quantity';
import { useState } from 'react';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { upright } from '../../app/theme.ts';
import { SlimButton } from '../../ui/button.tsx';
import { AircraftSwitch } from '../../app/aircraft-switch.tsx';
import { Columns, PageHead } from '../../ui/columns.ts';
import { Aid, PREVAILS, Small } from '../../ui/heading.ts';
import type { WhatIf } from './board-figures.ts';
import { useBoard } from './use-board.ts';
import { Board } from './board.tsx';
import { FailureMap } from './failure-map.tsx';
import { Knobs } from './knobs.tsx';
import { type Loaded, useLoaded } from './loaded.ts';

const Grid = styled(Columns)`
  --left: 18.75rem;
  --right: 18.75rem;
  --foot: 2.25rem;
  ${upright} {
    --right: minmax(0, 1fr);
  }
`;

const Head = styled(PageHead)`
  > :last-child {
    margin-left: auto;
  }
`;

const Side = styled.section`
  background: var(--sheet);
  padding: 12px 18px;
  overflow: auto;
  display: flex;
  flex-direction: column;
  gap: 6px;
  &:first-of-type {
    border-right: 1px solid var(--line);
  }
  ${upright} {
    overflow: visible;
  }
`;

const Mid = styled.section`
  grid-area: mid;
  padding: 12px 16px;
  display: grid;
  grid-template-rows: auto auto auto minmax(18.75rem, 1fr);
  align-content: start;
  gap: 10px;
  min-height: 0;
  min-width: 0;
  overflow: auto;
  ${upright} {
    border-top: 1px solid var(--line);
    overflow: visible;
  }
`;

const Actions = styled.ol`
  counter-reset: step;
  li {
    counter-increment: step;
    padding: 5px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.90625rem;
    font-weight: 620;
  }
  &:is(ol) li::before {
    content: counter(step) ' ';
    color: var(--now);
  }
  small {
    display: block;
    font-weight: 400;
    font-size: 0.8125rem;
    color: var(--soft);
  }
`;

/** What if an engine quits now: the board, what it takes to be better off, and the same flown on the simulator. */
export function PowerView() {
  const { aircraft } = useParams();
  const { loaded, failure } = useLoaded(aircraft!);
  if (failure !== null)
    return (
      <Head as="main">
        <h1>No power board</h1>
        <p role="alert">{failure}</p>
      </Head>
    );
  if (!loaded)
    return (
      <Head as="main">
        <p role="status">Reading the aircraft…</p>
      </Head>
    );
  return <PowerBoard key={loaded.tail} aircraft={aircraft!} loaded={loaded} />;
}

function PowerBoard({ aircraft, loaded }: { aircraft: string; loaded: Loaded }) {
  const { type, tail, start, from } = loaded;
  const [what, setWhat] = useState(start);
  const twin = type.engines.length > 1;
  return (
    <Grid>
      <title>{`Power ${tail} · Rouse`}</title>
      <Head>
        <h1>
          <AircraftSwitch aircraft={aircraft} tail={tail} to={(a) => `/power/${a}`} />
        </h1>
        <p>
          {twin ? 'One engine out' : 'Power in the hover'} · {type.name}. It began with {from}.
        </p>
        <SlimButton onPress={() => setWhat(start)}>As it began</SlimButton>
      </Head>
      <Side aria-label="What if" style={{ gridArea: 'left' }}>
        <Knobs type={type} what={what} set={(change) => setWhat((w) => ({ ...w, ...change }))} />
      </Side>
      <Mid aria-label="Power board">
        {twin && poweredOf(type) ? <Twin type={type} what={what} /> : <Singles type={type} what={what} />}
      </Mid>
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <Side aria-label="One engine out" tabIndex={0} style={{ gridArea: 'right', borderLeft: '1px solid var(--line)' }}>
        <OneEngine type={type} />
      </Side>
      <Aid as="footer" style={{ gridArea: 'foot', padding: '8px 20px', borderTop: '1px solid var(--line)' }}>
        {PREVAILS}
      </Aid>
    </Grid>
  );
}

/** A twin: what becomes of each hover, and the weights that one engine holds. */
function Twin({ type, what }: { type: TypeFile; what: WhatIf }) {
  const answer = useBoard(type, what);
  if (!answer) return <p role="status">Working out the board…</p>;
  const { board, held } = answer;
  return (
    <>
      {'refused' in board ? <p role="alert">{board.refused}</p> : <Board board={board} wind_kt={what.wind_kt} />}
      <FailureMap type={type} what={what} held={held} />
    </>
  );
}

/** A single: what the hover takes of take-off power. */
function Singles({ type, what }: { type: TypeFile; what: WhatIf }) {
  const air = { pa_ft: what.pa_ft, oat_C: what.oat_C, bleed: 'none' };
  const { unit, quantity } = type.performance.chart;
  const rows = [
    { words: `In ground effect, ${LOW_HOVER_ft} ft`, height: LOW_HOVER_ft },
    { words: 'Out of ground effect', height: null },
  ].map(({ words, height }) => ({ words, found: attempt(() => hoverAgainstLimit(type, what.mass_kg, air, height)) }));
  return (
    <section>
      <Small>
        {quantity} in the hover{pistonOf(type) ? ', rotor at 100 %' : ''}
      </Small>
      <ul>
        {rows.map(({ words, found }) => {
          if (isRefusal(found))
            return (
              <li key={words}>
                {words}:{' '}
                {found.field === 'hover'
                  ? 'what a hover takes is not written in this type'
                  : `outside what the chart says (${found.field})`}
              </li>
            );
          const h = found as HoverFigure;
          return (
            <li key={words} data-hover={words}>
              {words}: {h.required.toFixed(1)} of {h.available.toFixed(1)} {unit}, {h.margin.toFixed(1)}{' '}
              {h.margin < 0 ? 'short' : 'left'}; {h.limitedBy} limits
            </li>
          );
        })}
      </ul>
    </section>
  );
}

/** What is done, in order, and what each setting of the limiter gives and costs; the type file says both. */
function OneEngine({ type }: { type: TypeFile }) {
  const spec = type.ratings?.oneEngine;
  if (!spec) return <Aid>This type has one engine: when it quits, autorotate by the approved manual.</Aid>;
  return (
    <>
      <Small>When an engine quits, in this order</Small>
      <Actions>
        {spec.actions.map((a) => (
          <li key={a.do}>
            {a.do}
            <small>{a.why}</small>
          </li>
        ))}
      </Actions>
      <Small>What the limiter gives, and its price</Small>
      <Actions as="ul">
        {spec.limiter.map((l) => (
          <li key={l.id}>
            {l.label}
            <small>
              {l.gives}. {l.price}
            </small>
          </li>
        ))}
      </Actions>
    </>
  );
}
