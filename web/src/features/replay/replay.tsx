import type { TypeFile } from '@rouse/core/aircraft';
import { isWatched } from '@rouse/core/aircraft';
import { type ReactNode, useState } from 'react';
import { skipToken } from '@reduxjs/toolkit/query/react';
import styled from 'styled-components';
import { troubleIn, useTodayQuery, useTypeQuery } from '../../app/server-data.ts';
import { Button } from '../../ui/button.tsx';
import { Aid, PREVAILS } from '../../ui/heading.ts';
import { useReplay } from './use-replay.ts';
import { MappingForm } from './mapping-form.tsx';
import { PlayerScreen } from './player-screen.tsx';

const Page = styled.main`
  overflow: auto;
  padding: 22px 26px;
  display: grid;
  gap: 16px;
  align-content: start;
  label {
    display: grid;
    gap: 4px;
    font-size: 13px;
    color: var(--soft);
  }
  select,
  input {
    min-height: 48px;
    padding: 6px 10px;
    border: 1px solid var(--button-line);
    border-radius: 8px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
    max-width: 100%;
  }
`;

const Choices = styled.div`
  display: flex;
  gap: 18px;
  flex-wrap: wrap;
  align-items: end;
`;

const Alert = styled.div`
  background: var(--warning-paper);
  color: var(--warning);
  border-radius: 8px;
  padding: 10px 12px;
`;

const Meter = styled.div`
  display: flex;
  gap: 16px;
  align-items: center;
  progress {
    accent-color: var(--now);
    flex: 1;
    height: 14px;
  }
`;

/** A recorded file, ours or another recorder's: mapped, watched from end to end, and played again. */
export function ReplayView() {
  const { data: today, error } = useTodayQuery();
  const failure = troubleIn(error);
  const [tail, setTail] = useState<string | null>(null);
  const chosen =
    today?.aircraft.find((a) => a.tail === tail) ??
    today?.aircraft.toSorted((a, b) => (b.goodStarts ?? 0) - (a.goodStarts ?? 0))[0];
  const { currentData: type, error: typeError } = useTypeQuery(chosen?.type ?? skipToken);
  if (!today || !type)
    return (
      <Page>
        <title>Replay · Rouse</title>
        <p role="status">{failure ?? troubleIn(typeError) ?? 'Reading the fleet…'}</p>
      </Page>
    );
  return (
    <FileReplay
      key={type.id}
      type={type}
      choice={
        <label>
          Recorded on
          <select value={chosen?.tail ?? ''} onChange={(e) => setTail(e.target.value)}>
            {today.aircraft.map((a) => (
              <option key={a.tail} value={a.tail}>
                {a.tail}, {a.type.name}
              </option>
            ))}
          </select>
        </label>
      }
    />
  );
}

function FileReplay({ type, choice }: { type: TypeFile; choice: ReactNode }) {
  const controls = useReplay(type);
  const { replay } = controls;
  if (isWatched(type) && replay.scanned && replay.file)
    return <PlayerScreen type={type} controls={controls} scanned={replay.scanned} name={replay.file.name} />;
  return (
    <Page>
      <title>Replay · Rouse</title>
      <header>
        <h1>Replay a recorded file</h1>
        <Aid>The file stays on this machine. Nothing of it goes into the record of an aircraft.</Aid>
      </header>
      <Choices>
        {choice}
        <label>
          CSV file
          <input
            type="file"
            accept=".csv,.txt,.tsv,text/csv"
            onChange={(e) => {
              const [file] = e.target.files ?? [];
              if (file) controls.open(file);
            }}
          />
        </label>
      </Choices>
      {replay.refused && (
        <Alert role="alert" data-refused>
          {replay.refused.row > 0 && `Row ${replay.refused.row}`}
          {replay.refused.column && `, column ${replay.refused.column}`}
          {replay.refused.row > 0 && ': '}
          {replay.refused.message}. {replay.refused.remedy}
        </Alert>
      )}
      {replay.progress && (
        <Meter>
          <progress aria-label="Reading the file" max={replay.progress.total} value={replay.progress.bytes} />
          <span data-rows>{replay.progress.rows.toLocaleString('en-GB')} rows</span>
          <Button onPress={controls.cancel}>Cancel</Button>
        </Meter>
      )}
      {replay.head && replay.mapping && (
        <MappingForm
          type={type}
          head={replay.head}
          mapping={replay.mapping}
          kept={replay.kept}
          busy={replay.progress !== null}
          change={controls.change}
          begin={controls.begin}
        />
      )}
      <Aid>{PREVAILS}</Aid>
    </Page>
  );
}
