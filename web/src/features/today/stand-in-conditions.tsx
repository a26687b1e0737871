import type { AircraftToday, StandInLine } from '@rouse/core/contract';
import { useState } from 'react';
import { Radio, RadioGroup } from 'react-aria-components';
import styled from 'styled-components';
import { troubleIn, useChoosePresetMutation, useLayLineMutation } from '../../app/server-data.ts';
import { Small } from '../../ui/heading.ts';

/** Simulated things carry a dashed frame and the word, so that they cannot be taken for real ones. */
const Frame = styled.section`
  border: 2px dashed var(--limit-edge);
  border-radius: 14px;
  padding: 18px 20px;
  background: var(--sheet);
  select {
    min-height: 3rem;
    padding: 4px 10px;
    border: 1px solid var(--button-line);
    border-radius: 8px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
  }
  summary {
    min-height: 3rem;
    display: flex;
    align-items: center;
    cursor: pointer;
    border-top: 1px solid var(--hair);
    font-size: 0.875rem;
  }
`;

const Word = styled.span`
  background: var(--limit-fill);
  color: var(--limit-ink);
  border-radius: 5px;
  padding: 1px 8px;
  font-weight: 700;
  font-size: 0.78125rem;
`;

const Choice = styled(Radio)`
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr);
  gap: 2px 12px;
  padding: 9px 8px;
  min-height: 3rem;
  align-items: center;
  border-top: 1px solid var(--hair);
  cursor: pointer;
  border-radius: 6px;
  &::before {
    content: '';
    width: 16px;
    height: 16px;
    border-radius: 50%;
    border: 2px solid var(--button-line);
  }
  &[data-selected]::before {
    border: 5px solid var(--now);
  }
  &[data-focus-visible] {
    outline: 3px solid var(--now);
  }
  &[data-disabled] {
    opacity: 0.6;
    cursor: default;
  }
  small {
    grid-column: 2;
    color: var(--soft);
    font-size: 0.8125rem;
  }
`;

const Top = styled.header`
  display: flex;
  align-items: center;
  justify-content: space-between;
  gap: 12px;
  flex-wrap: wrap;
  margin-bottom: 8px;
`;

const LineGrid = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 8.75rem), 1fr));
  gap: 10px;
  margin-top: 10px;
  label {
    display: grid;
    gap: 3px;
    font-size: 0.8125rem;
    color: var(--soft);
  }
`;

/** Conditions and line of the stand-ins, one aircraft at a time. */
export function StandInConditions({ fleet }: { fleet: readonly AircraftToday[] }) {
  const [choosePreset, { error: presetError }] = useChoosePresetMutation();
  const refused = troubleIn(presetError);
  const wired = fleet.filter((a) => a.standIn !== null);
  const open = wired.find((a) => a.openRun) ?? wired.toSorted((a, b) => (b.goodStarts ?? 0) - (a.goodStarts ?? 0))[0];
  const [chosen, setChosen] = useState<string | null>(null);
  const aircraft = wired.find((a) => a.aircraft === chosen) ?? open;
  if (!aircraft?.standIn) return null;
  const { standIn, aircraft: id, tail, openRun } = aircraft;
  const without = standIn.preset === null;
  return (
    <Frame>
      <Top>
        <Small as="h2">
          Stand-in of {tail} <Word>simulated</Word>
        </Small>
        {wired.length > 1 && (
          <select aria-label="Stand-in of" value={id} onChange={(e) => setChosen(e.target.value)}>
            {wired.map((a) => (
              <option key={a.aircraft} value={a.aircraft}>
                {a.tail}, {a.type.name}
              </option>
            ))}
          </select>
        )}
      </Top>
      <RadioGroup
        aria-label={`Conditions of the stand-in of ${tail}`}
        value={standIn.preset ?? ''}
        isDisabled={openRun !== null || without}
        onChange={(preset) => void choosePreset({ aircraft: id, preset })}
      >
        {without && (
          <p role="status">
            The stand-in device does not answer. A run can still be begun: readings stay unknown and items are declared.
          </p>
        )}
        {openRun !== null && <p>They can be changed when the open run is closed.</p>}
        {standIn.presets.map((preset) => (
          <Choice key={preset.id} value={preset.id}>
            <span>{preset.label}</span>
            <small>{preset.note}</small>
          </Choice>
        ))}
      </RadioGroup>
      {refused !== null && <p role="alert">{refused}</p>}
      {standIn.line && <LineForm aircraft={id} line={standIn.line} />}
    </Frame>
  );
}

const FAULTS: readonly { key: 'drop' | 'repeat' | 'corrupt'; label: string }[] = [
  { key: 'drop', label: 'lost' },
  { key: 'repeat', label: 'sent twice' },
  { key: 'corrupt', label: 'garbled' },
];
const SHARES = [0, 0.01, 0.05, 0.2];
const DELAYS_MS = [0, 100, 300, 1000];

/** How the stand-in speaks, and how badly its line carries: for trying what the watch makes of it. */
function LineForm({ aircraft, line }: { aircraft: string; line: StandInLine }) {
  const [layLine, { error }] = useLayLineMutation();
  const refused = troubleIn(error);
  const lay = (change: Partial<StandInLine>): void => void layLine({ aircraft, line: { ...line, ...change } });
  return (
    <details>
      <summary>
        Line: {line.format === 'json' ? 'JSON Lines' : 'NMEA 0183'} over {line.transport.toUpperCase()}
        {isClean(line) ? '' : ', faulty'}
      </summary>
      {refused !== null && <p role="alert">{refused}</p>}
      <LineGrid>
        <label>
          Format
          <select value={line.format} onChange={(e) => lay({ format: e.target.value as StandInLine['format'] })}>
            <option value="json">JSON Lines</option>
            <option value="nmea">NMEA 0183</option>
          </select>
        </label>
        <label>
          Over
          <select
            value={line.transport}
            onChange={(e) => lay({ transport: e.target.value as StandInLine['transport'] })}
          >
            <option value="tcp">TCP</option>
            <option value="udp">UDP</option>
          </select>
        </label>
        {FAULTS.map(({ key, label }) => (
          <label key={key}>
            Lines {label}
            <select value={line[key]} onChange={(e) => lay({ [key]: Number(e.target.value) })}>
              {SHARES.map((share) => (
                <option key={share} value={share}>
                  {share === 0 ? 'none' : `${share * 100} %`}
                </option>
              ))}
            </select>
          </label>
        ))}
        <label>
          Late by
          <select value={line.delay_ms} onChange={(e) => lay({ delay_ms: Number(e.target.value) })}>
            {DELAYS_MS.map((ms) => (
              <option key={ms} value={ms}>
                {ms} ms
              </option>
            ))}
          </select>
        </label>
      </LineGrid>
    </details>
  );
}

const isClean = ({ drop, repeat, corrupt, delay_ms }: StandInLine): boolean =>
  drop === 0 && repeat === 0 && corrupt === 0 && delay_ms === 0;
