import { pistonOf, type TypeFile } from '@rouse/core/aircraft';
import { hoverAgainstLimit, type HoverFigure } from '@rouse/core/procedure';
import { LOW_HOVER_ft } from '@rouse/core/power';
import { attempt, isRefusal } from '@rouse/core/quantity';
import { useState } from 'react';
import { useParams } from 'react-router';
import { Switch } from 'react-aria-components';
import styled from 'styled-components';
import { phone, upright } from '../../app/theme.ts';
import { SlimButton } from '../../parts/button.tsx';
import { Aid, PREVAILS, Small } from '../../parts/heading.ts';
import { Slider } from '../../parts/slider.tsx';
import { useUnits } from '../../parts/units.ts';
import { Board } from './board.tsx';
import { FailureMap } from './failure-map.tsx';
import { boardOf, type Loaded, useLoaded, type WhatIf } from './what-if.ts';

const Grid = styled.main`
  display: grid;
  grid-template: 60px minmax(0, 1fr) 36px / 300px minmax(0, 1fr) 300px;
  grid-template-areas: 'head head head' 'left mid right' 'foot foot foot';
  height: 100%;
  min-width: 0;
  min-height: 0;
  ${upright} {
    grid-template: auto auto auto auto / minmax(0, 1fr) minmax(0, 1fr);
    grid-template-areas: 'head head' 'left right' 'mid mid' 'foot foot';
    height: auto;
    max-height: 100%;
    overflow: auto;
  }
  ${phone} {
    grid-template: auto auto auto auto auto / minmax(0, 1fr);
    grid-template-areas: 'head' 'left' 'mid' 'right' 'foot';
  }
`;

const Head = styled.header`
  grid-area: head;
  display: flex;
  align-items: center;
  gap: 18px;
  padding: 8px 20px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  h1 {
    font-weight: 720;
    font-size: 20px;
  }
  p {
    color: var(--soft);
    font-size: 13.5px;
  }
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
  grid-template-rows: auto auto auto minmax(300px, 1fr);
  align-content: start;
  gap: 10px;
  min-height: 0;
  min-width: 0;
  overflow: auto;
  ${upright} {
    border-top: 1px solid var(--line);
    overflow: visible;
    min-height: max-content;
  }
`;

const Actions = styled.ol`
  counter-reset: step;
  li {
    counter-increment: step;
    padding: 5px 0;
    border-top: 1px solid var(--hair);
    font-size: 14.5px;
    font-weight: 620;
  }
  &:is(ol) li::before {
    content: counter(step) ' ';
    color: var(--now);
  }
  small {
    display: block;
    font-weight: 400;
    font-size: 13px;
    color: var(--soft);
  }
`;

const Toggle = styled(Switch)`
  display: flex;
  align-items: center;
  gap: 10px;
  min-height: 48px;
  border-top: 1px solid var(--hair);
  font-size: 14px;
  cursor: pointer;
  .box {
    width: 40px;
    height: 22px;
    border-radius: 11px;
    border: 2px solid var(--button-line);
    background: var(--button);
    flex: none;
    position: relative;
  }
  .box::after {
    content: '';
    position: absolute;
    inset: 2px auto 2px 2px;
    width: 14px;
    border-radius: 50%;
    background: var(--button-line);
  }
  &[data-selected] .box {
    background: var(--water3);
    border-color: var(--track);
  }
  &[data-selected] .box::after {
    inset: 2px 2px 2px auto;
    background: var(--ink);
  }
  &[data-focus-visible] .box {
    outline: 3px solid var(--now);
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
  return <PowerBoard key={loaded.tail} loaded={loaded} />;
}

function PowerBoard({ loaded }: { loaded: Loaded }) {
  const { type, tail, start, from } = loaded;
  const [what, setWhat] = useState(start);
  const twin = type.engines.length > 1;
  const board = twin ? boardOf(type, what) : null;
  return (
    <Grid>
      <title>{`Power ${tail} · Rouse`}</title>
      <Head>
        <h1>{tail}</h1>
        <p>
          {twin ? 'One engine out' : 'Power in the hover'} · {type.name}. It began with {from}.
        </p>
        <SlimButton onPress={() => setWhat(start)}>As it began</SlimButton>
      </Head>
      <Side aria-label="What if" style={{ gridArea: 'left' }}>
        <Knobs type={type} what={what} set={(change) => setWhat((w) => ({ ...w, ...change }))} />
      </Side>
      <Mid aria-label="Power board">
        {board === null ? (
          <Singles type={type} what={what} />
        ) : 'refused' in board ? (
          <p role="alert">{board.refused}</p>
        ) : (
          <Board board={board} wind_kt={what.wind_kt} />
        )}
        {twin && <FailureMap type={type} what={what} />}
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

function Knobs({ type, what, set }: { type: TypeFile; what: WhatIf; set: (change: Partial<WhatIf>) => void }) {
  const { show } = useUnits();
  const { empty_kg, mtow_kg } = type.loading;
  const twin = type.engines.length > 1;
  return (
    <>
      <Small>What if</Small>
      <Slider
        label="Weight"
        value={what.mass_kg}
        onChange={(mass_kg) => set({ mass_kg })}
        range={[Math.ceil(empty_kg / 10) * 10, Math.floor((1.05 * mtow_kg) / 10) * 10]}
        step={10}
        said={`${show(what.mass_kg, 'mass', 'ceil')}${what.mass_kg > mtow_kg ? ', too heavy' : ''}`}
      />
      <Slider
        label="Outside air"
        value={what.oat_C}
        onChange={(oat_C) => set({ oat_C })}
        range={[-30, 45]}
        step={1}
        said={show(what.oat_C, 'temperature')}
      />
      <Slider
        label="Pressure altitude"
        value={what.pa_ft}
        onChange={(pa_ft) => set({ pa_ft })}
        range={[-500, 9000]}
        step={50}
        said={`${Math.round(what.pa_ft)} ft`}
      />
      {twin && (
        <>
          <Slider
            label="Height of the skids"
            value={what.height_ft}
            onChange={(height_ft) => set({ height_ft })}
            range={[5, 300]}
            step={5}
            said={`${what.height_ft} ft`}
          />
          <Slider
            label="Headwind"
            value={what.wind_kt}
            onChange={(wind_kt) => set({ wind_kt })}
            range={[0, 40]}
            step={1}
            said={`${what.wind_kt} kt`}
          />
          <Toggle isSelected={what.obstacleClear} onChange={(obstacleClear) => set({ obstacleClear })}>
            <span className="box" /> Clear of obstacles to fly away
          </Toggle>
          <Toggle isSelected={what.landingOk} onChange={(landingOk) => set({ landingOk })}>
            <span className="box" /> A place to land below
          </Toggle>
        </>
      )}
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
                {words}: outside what the chart says ({found.field})
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
