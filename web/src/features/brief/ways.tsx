import { isAsked } from '@rouse/core/aircraft';
import { operatorWay } from '@rouse/core/brief';
import { useId } from 'react';
import styled from 'styled-components';
import { unitToggled } from '../../app/settings-slice.ts';
import { useAppDispatch } from '../../app/store.ts';
import { UNIT_CHOICES, type UnitKind } from '../../app/unit-choices.ts';
import { SlimButton } from '../../ui/button.tsx';
import { Small } from '../../ui/heading.ts';
import { UNIT_SIGNS } from '../../ui/figures.ts';
import { useUnits } from '../../ui/units.ts';
import type { BriefDesk } from './desk.ts';
import { Block, Ticks } from './fields.ts';

const Way = styled.div`
  border-top: 1px solid var(--hair);
  padding: 4px 0;
  > div {
    display: flex;
    flex-wrap: wrap;
    gap: 0 10px;
    align-items: center;
    font-size: 0.875rem;
  }
  label {
    flex: 1 1 auto;
  }
  select {
    font: inherit;
    font-weight: 620;
    color: var(--ink);
    background: var(--sheet);
    border: 1.5px solid transparent;
    border-bottom-color: var(--button-line);
    border-radius: 6px;
    min-height: 2.25rem;
    max-width: 100%;
  }
  input {
    font: inherit;
    font-size: 0.84375rem;
    width: 100%;
    min-height: 2.25rem;
    margin-top: 4px;
    border: 1.5px solid var(--button-line);
    border-radius: 7px;
    padding: 3px 8px;
    background: var(--sheet);
    color: var(--ink);
  }
`;

/** How the list is worked today: the operator's answers, and what this day changes, with the reason. */
export function Ways({ desk }: { desk: BriefDesk }) {
  const { context, input, set, brief } = desk;
  const id = useId();
  return (
    <Block>
      <Small>Ways of working</Small>
      {context.type.choices
        .filter((c) => !c.derived && isAsked(c, (other) => brief.ways[other]))
        .map((c) => {
          const operator = operatorWay(c, context.operatorWays);
          const day = input.ways[c.id];
          const answer = day?.to ?? operator;
          return (
            <Way key={c.id}>
              <div>
                <label htmlFor={`${id}-${c.id}`}>{c.question}</label>
                <select
                  id={`${id}-${c.id}`}
                  value={answer}
                  onChange={(e) => {
                    const { [c.id]: _old, ...rest } = input.ways;
                    const to = e.target.value;
                    set({ ways: to === operator ? rest : { ...rest, [c.id]: { to, reason: day?.reason ?? '' } } });
                  }}
                >
                  {c.alternatives.map((a) => (
                    <option key={a.id} value={a.id} title={a.why}>
                      {a.label}
                      {a.id === operator ? ', the operator’s' : ''}
                    </option>
                  ))}
                </select>
              </div>
              {day && day.to !== operator && (
                <input
                  aria-label={`Why ${c.question.toLowerCase()} differs today`}
                  placeholder="Why not as the operator does?"
                  maxLength={500}
                  value={day.reason}
                  onChange={(e) => set({ ways: { ...input.ways, [c.id]: { to: day.to, reason: e.target.value } } })}
                />
              )}
            </Way>
          );
        })}
    </Block>
  );
}

const toggled = (list: readonly string[], id: string, on: boolean): string[] =>
  on ? [...list.filter((x) => x !== id), id] : list.filter((x) => x !== id);

/** What is not on board or does not work, who stands near with a slow rotor, and the short list's conditions. */
export function Declared({ desk: { context, input, set, brief } }: { desk: BriefDesk }) {
  const { type, neighbours } = context;
  return (
    <>
      <Block>
        <Small>Missing, or not working</Small>
        <Ticks>
          {type.equipment.map((e) => (
            <label key={e.id}>
              <input
                type="checkbox"
                checked={input.missing.includes(e.id)}
                onChange={(event) => set({ missing: toggled(input.missing, e.id, event.target.checked) })}
              />
              {e.label}
            </label>
          ))}
        </Ticks>
      </Block>
      {neighbours.length > 0 && (
        <Block>
          <Small>Rotor slow: starting or running down</Small>
          <Ticks>
            {neighbours.map((n) => (
              <label key={n.tail}>
                <input
                  type="checkbox"
                  checked={input.slowNeighbours.includes(n.name)}
                  onChange={(event) =>
                    set({ slowNeighbours: toggled(input.slowNeighbours, n.name, event.target.checked) })
                  }
                />
                {n.name}: {n.tail}, {Math.floor(n.distance_m)} m away
              </label>
            ))}
          </Ticks>
        </Block>
      )}
      {type.turnRound && brief.ways['list'] === 'turn-round' && (
        <Block>
          <Small>The short list asks for</Small>
          <Ticks>
            {type.turnRound.entry.map((e) => (
              <label key={e.id}>
                <input
                  type="checkbox"
                  disabled={e.withinMinutes !== undefined}
                  checked={
                    e.withinMinutes === undefined
                      ? input.turnRound.includes(e.id)
                      : !brief.objections.some((h) => h.id === `turn-round-${e.id}`)
                  }
                  onChange={(event) => set({ turnRound: toggled(input.turnRound, e.id, event.target.checked) })}
                />
                {e.words}
              </label>
            ))}
          </Ticks>
        </Block>
      )}
    </>
  );
}

const Row = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
  padding: 6px 0;
`;

/** Units as this person likes them; nothing that was entered changes with them. */
export function UnitsRow() {
  const dispatch = useAppDispatch();
  const { units } = useUnits();
  return (
    <Block>
      <Small>Units</Small>
      <Row>
        {(Object.keys(UNIT_CHOICES) as UnitKind[]).map((kind) => {
          const other = UNIT_CHOICES[kind].find((u) => u !== units[kind])!;
          return (
            <SlimButton
              key={kind}
              onPress={() => dispatch(unitToggled(kind))}
              aria-label={`${kind} in ${UNIT_SIGNS[units[kind]]}, change to ${UNIT_SIGNS[other]}`}
            >
              {UNIT_SIGNS[units[kind]]}
            </SlimButton>
          );
        })}
      </Row>
    </Block>
  );
}
