import { type CockpitControl, isWatched } from '@rouse/core/aircraft';
import { whyNotKey } from '@rouse/core/drill';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import styled from 'styled-components';
import { troubleIn, useTypeQuery } from '../../app/server-data.ts';
import { mono } from '../../app/theme.ts';
import { Button } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { Aid, PREVAILS, Small } from '../../ui/heading.ts';
import { DrillFrame, DrillHead, Side } from './drill-frame.tsx';
import { useOwnKeys } from './own-hands.ts';
import { StickSettings } from './stick-settings.tsx';

const Mid = styled.section`
  grid-area: mid;
  padding: 14px 18px;
  overflow: auto;
  min-width: 0;
  display: grid;
  align-content: start;
  gap: 10px;
`;

const Keys = styled.ul`
  list-style: none;
  padding: 0;
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 16.25rem), 1fr));
  gap: 8px 14px;
  button {
    width: 100%;
    justify-content: space-between;
  }
  b {
    ${mono}
  }
`;

/** Keys and game controller as this person wants them, kept on this device. */
export function Hands() {
  const { type: id = '', version = '' } = useParams();
  const { data, error } = useTypeQuery({ id, version: Number(version) });
  const { type, bind, forget } = useOwnKeys(data && isWatched(data) ? data : undefined);
  return (
    <DrillFrame>
      <title>Keys and controller · Drill · Rouse</title>
      <DrillHead>
        <h1>Drill</h1>
        <p>Keys and controller{type ? `, ${type.name}` : ''}. Kept on this device.</p>
        <p>{PREVAILS}</p>
      </DrillHead>
      <Side aria-label="Back" style={{ gridArea: 'left' }}>
        <Link to={`/drill?type=${id}`}>To the lessons</Link>
        <Aid>Press a control here, then the key that shall move it.</Aid>
        <Button onPress={forget}>As the type has them</Button>
      </Side>
      <Mid aria-label="Keys">
        {error && <p role="alert">{troubleIn(error)}</p>}
        <Small>Keys</Small>
        {type && <KeyList controls={type.cockpit ?? []} bind={bind} />}
      </Mid>
      <Side aria-label="Game controller" style={{ gridArea: 'right' }}>
        <StickSettings />
      </Side>
    </DrillFrame>
  );
}

function KeyList({ controls, bind }: { controls: readonly CockpitControl[]; bind: (id: string, key: string) => void }) {
  const [waiting, setWaiting] = useState<string | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const took = (id: string, key: string): void => {
    const why = whyNotKey(controls, id, key.toLowerCase());
    setRefused(why);
    if (why !== null) return;
    bind(id, key.toLowerCase());
    setWaiting(null);
  };
  return (
    <>
      {refused !== null && <Alert role="alert">{refused}</Alert>}
      <Keys>
        {controls.map(({ id, label, key }) => (
          <li key={id}>
            <Button
              aria-pressed={waiting === id}
              onPress={() => {
                setRefused(null);
                setWaiting(waiting === id ? null : id);
              }}
              onBlur={() => setWaiting((was) => (was === id ? null : was))}
              onKeyDown={(e) => {
                // Tab leaves it, Enter and Space press it as everywhere
                if (waiting !== id || ['Tab', 'Enter', ' ', 'Shift'].includes(e.key)) return;
                if (e.key === 'Escape') setWaiting(null);
                else took(id, e.key);
              }}
            >
              {label} <b>{waiting === id ? 'press a key' : key.toUpperCase()}</b>
            </Button>
          </li>
        ))}
      </Keys>
    </>
  );
}
