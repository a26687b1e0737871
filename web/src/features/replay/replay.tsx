import type { TypeFile } from '@rouse/core/aircraft';
import { isWatched } from '@rouse/core/aircraft';
import { type ReactNode, useState } from 'react';
import { skipToken } from '@reduxjs/toolkit/query/react';
import { troubleIn, useTodayQuery, useTypeQuery } from '../../app/server-data.ts';
import { Button } from '../../ui/button.tsx';
import { Aid, PREVAILS } from '../../ui/heading.ts';
import { useReplay } from './use-replay.ts';
import { MappingForm } from './mapping-form.tsx';
import { Choices, Meter, Page, RefusedFile } from './page.tsx';
import { PlayerScreen } from './player-screen.tsx';

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
          CSV file or XLSX sheet
          <input
            type="file"
            accept=".csv,.txt,.tsv,.xlsx,text/csv"
            onChange={(e) => {
              const [file] = e.target.files ?? [];
              if (file) controls.open(file);
            }}
          />
        </label>
      </Choices>
      <RefusedFile refused={replay.refused} />
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
          verb="Read the whole file"
        />
      )}
      <Aid>{PREVAILS}</Aid>
    </Page>
  );
}
