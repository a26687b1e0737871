import type { TypeFile } from '@rouse/core/aircraft';
import { headerKey } from '@rouse/core/replay';
import { skipToken } from '@reduxjs/toolkit/query/react';
import { type ReactNode, useState } from 'react';
import { Link } from 'react-router';
import { aircraftInHand } from '../../app/aircraft-in-hand.tsx';
import { troubleIn, useTodayQuery, useTypeQuery } from '../../app/server-data.ts';
import { putJson } from '../../platform/api.ts';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { Aid, PREVAILS } from '../../ui/heading.ts';
import { MappingForm } from './mapping-form.tsx';
import { Choices, Meter, Page, RefusedFile } from './page.tsx';
import { type PastState, usePast } from './use-past.ts';
import { useReplay } from './use-replay.ts';

/** Recordings of one tail from before Rouse: read as runs, hundreds at once. */
export function PastView() {
  const { data: today, error } = useTodayQuery();
  const [aircraft, setAircraft] = useState<string | null>(null);
  const chosen = today && (today.aircraft.find((a) => a.aircraft === aircraft) ?? aircraftInHand(today.aircraft));
  const { currentData: type, error: typeError } = useTypeQuery(chosen?.type ?? skipToken);
  if (!today || !chosen || !type)
    return (
      <Page>
        <title>Bring a past along · Rouse</title>
        <p role="status">{troubleIn(error) ?? troubleIn(typeError) ?? 'Reading the fleet…'}</p>
      </Page>
    );
  return (
    <PastOf
      key={chosen.aircraft}
      aircraft={chosen.aircraft}
      tail={chosen.tail}
      type={type}
      choice={
        <label>
          Recorded on
          <select value={chosen.aircraft} onChange={(e) => setAircraft(e.target.value)}>
            {today.aircraft.map((a) => (
              <option key={a.aircraft} value={a.aircraft}>
                {a.tail}, {a.type.name}
              </option>
            ))}
          </select>
        </label>
      }
    />
  );
}

function PastOf({ aircraft, tail, type, choice }: { aircraft: string; tail: string; type: TypeFile; choice: ReactNode }) {
  const { replay, open, change } = useReplay(type);
  const { past, begin, stop, goOn } = usePast(aircraft);
  const [files, setFiles] = useState<readonly File[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const count = `${files.length} ${files.length === 1 ? 'file' : 'files'}`;
  const bring = (): void => {
    if (!replay.head || !replay.mapping) return;
    setTrouble(null);
    putJson(`/mappings/${type.id}`, { header: headerKey(replay.head), mapping: replay.mapping }).then(
      () => begin(files),
      (error: unknown) => setTrouble(error instanceof Error ? error.message : String(error)),
    );
  };
  return (
    <Page>
      <title>Bring a past along · Rouse</title>
      <header>
        <h2>Bring a tail’s past along</h2>
        <Aid>
          Every file becomes a run of its tail, watched as if it were live; habits and trends learn from its starts. A limit
          passed in one holds the next start until it is released. Days are UTC; hours belong in the opening values of the
          books.
        </Aid>
      </header>
      <Choices>
        {choice}
        <label>
          Files of one recorder
          <input
            type="file"
            multiple
            disabled={past.going}
            accept=".csv,.txt,.tsv,.xlsx,text/csv"
            onChange={(e) => {
              const all = [...(e.target.files ?? [])].toSorted((a, b) => a.name.localeCompare(b.name));
              setFiles(all);
              if (all[0]) open(all[0]);
            }}
          />
        </label>
      </Choices>
      {trouble && <p role="alert">{trouble}</p>}
      <RefusedFile refused={replay.refused} />
      {past.total > 0 && <Progress past={past} aircraft={aircraft} tail={tail} stop={stop} goOn={goOn} />}
      {past.total === 0 && replay.head && replay.mapping && (
        <MappingForm
          type={type}
          head={replay.head}
          mapping={replay.mapping}
          kept={replay.kept}
          busy={past.going}
          change={change}
          begin={bring}
          verb={`Bring ${count} along`}
        />
      )}
      <Aid>{PREVAILS}</Aid>
    </Page>
  );
} // oxfmt-ignore

/** How far it is, what was kept, and why the others were not. */
function Progress({ past, aircraft, tail, stop, goOn }: { past: PastState; aircraft: string; tail: string; stop: () => void; goOn: () => void }) {
  const { results, total, going, held } = past;
  const kept = results.filter((r) => r.kept && !r.kept.already);
  const refused = results.filter((r) => r.reason !== null);
  const sum = (of: 'starts' | 'held'): number => kept.reduce((n, r) => n + r.kept![of], 0);
  const again = results.length - kept.length - refused.length;
  const holding = sum('held');
  return (
    <>
      <Meter>
        <progress aria-label="Files read" max={total} value={results.length} />
        {going && <Button onPress={stop}>Stop</Button>}
        {!going && results.length < total && <PrimaryButton onPress={goOn}>Go on</PrimaryButton>}
      </Meter>
      {held && <p role="alert">{held}</p>}
      <p role="status" data-brought={going ? 'going' : 'done'}>
        {results.length} of {total} read: {kept.length} kept with {sum('starts')} starts
        {again > 0 && `, ${again} kept before`}, {refused.length} refused.
      </p>
      {holding > 0 && (
        <p role="alert">
          {holding} {holding === 1 ? 'exceedance holds' : 'exceedances hold'} the next start.{' '}
          <Link to={`/log/${aircraft}/exceedances`}>See and release</Link>
        </p>
      )}
      {refused.length > 0 && (
        <ul aria-label="Refused files">
          {refused.map((r) => (
            <li key={r.name}>
              <b>{r.name}</b>: {r.reason}
            </li>
          ))}
        </ul>
      )}
      {!going && kept.length > 0 && (
        <p>
          <Link to={`/log/${aircraft}/runs`}>Runs of {tail}</Link> · <Link to={`/log/${aircraft}/trends`}>its trends</Link>
        </p>
      )}
    </>
  );
} // oxfmt-ignore
