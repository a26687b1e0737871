import { sayCondition } from '@rouse/core/aircraft';
import { conditionOf } from '@rouse/core/procedure';
import { memo, useState } from 'react';
import styled from 'styled-components';
import { lights } from '../../../app/theme.ts';
import { SlimButton } from '../../../ui/button.tsx';
import { Small } from '../../../ui/heading.ts';
import { Side } from './side.ts';
import type { DraftDesk } from './use-draft.ts';

const Lights = styled.div`
  display: flex;
  gap: 6px;
  margin-bottom: 10px;
`;

const Card = styled.article`
  ${lights}
  border: 2px solid var(--now);
  border-radius: 14px;
  padding: 12px;
  background: var(--now-paper);
  color: var(--ink);
  p {
    font-size: 0.84375rem;
    color: var(--soft);
    margin-top: 8px;
  }
  small {
    font-size: 0.78125rem;
    color: var(--now);
    font-weight: 650;
  }
  h3 {
    font-size: 1.4375rem;
    line-height: 1.15;
    font-weight: 720;
    margin: 5px 0 1px;
  }
  h4 {
    font-size: 1.0625rem;
    font-weight: 450;
    margin-bottom: 7px;
  }
  div {
    background: var(--usual1);
    border-radius: 9px;
    padding: 8px 11px;
    font-size: 0.875rem;
  }
`;

const LIGHTS = ['day', 'night', 'sun'] as const;
type Light = (typeof LIGHTS)[number];

const LightChoice = memo(({ light, setLight }: { light: Light; setLight: (light: Light) => void }) => (
  <Lights>
    {LIGHTS.map((l) => (
      <SlimButton key={l} aria-pressed={light === l} onPress={() => setLight(l)}>
        {l}
      </SlimButton>
    ))}
  </Lights>
));

/** The open item as the pilot will see it, in any light. */
export function Preview({ desk: { compiled }, item }: { desk: DraftDesk; item: number | null }) {
  const [light, setLight] = useState<Light>('day');
  const type = compiled?.type;
  const shown = item === null ? undefined : type?.items[item];
  const list = type?.items.filter((i) => i.leg === shown?.leg) ?? [];
  const condition = shown && conditionOf(shown);
  return (
    <Side tabIndex={0} aria-label="As the pilot will see it">
      <Small>As the pilot will see it</Small>
      {shown && type ? (
        <>
          <LightChoice light={light} setLight={setLight} />
          <Card data-preview={shown.id} data-light={light}>
            <small>
              {type.legs.find((l) => l.id === shown.leg)?.label} · {list.indexOf(shown) + 1} of {list.length},{' '}
              {shown.zone}
            </small>
            <h3>{shown.challenge}</h3>
            <h4>{shown.response}</h4>
            {condition && <div>{sayCondition(condition, type.channels, true)}</div>}
            <p>{shown.why}</p>
            <p>{shown.ifSkipped}</p>
          </Card>
        </>
      ) : (
        <p>Open an item of the procedure.</p>
      )}
    </Side>
  );
}
