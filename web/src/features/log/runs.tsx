import type { LoggedRun, RunFilter } from '@rouse/core/contract';
import { OUTCOMES, SOURCES } from '@rouse/core/procedure';
import { useEffect, useRef, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import styled from 'styled-components';
import { useLoggedRunsQuery, useLoggedTailsQuery } from '../../app/log-data.ts';
import { troubleIn } from '../../app/server-data.ts';
import { Button } from '../../ui/button.tsx';
import { Alert, inputLook } from '../../ui/field-look.ts';
import { dayAndTime, minutes, outcomeInWords, sourceInWords } from '../../ui/words.ts';
import { Card, ListTable, Main, Wide } from './page.tsx';

const Filter = styled.form`
  display: flex;
  flex-wrap: wrap;
  gap: 10px 14px;
  ${inputLook}
  label {
    display: grid;
    gap: 4px;
    font-size: 0.78125rem;
    font-weight: 600;
    color: var(--soft);
  }
`;

const FIELDS = ['tail', 'outcome', 'source', 'from', 'to', 'words'] as const;

/** Every run, narrowed by what is chosen; the choice stands in the address, so that it can be sent to somebody. */
export function RunsView() {
  const [params, setParams] = useSearchParams();
  const { data: tails } = useLoggedTailsQuery();
  const filter = Object.fromEntries(FIELDS.flatMap((f) => (params.get(f) ? [[f, params.get(f)!]] : []))) as RunFilter;
  const put = (name: string, value: string): void => {
    const next = new URLSearchParams(params);
    if (value) next.set(name, value);
    else next.delete(name);
    setParams(next, { replace: true });
  };
  return (
    <Main>
      <title>Runs · Log · Rouse</title>
      <Filter aria-label="Which runs" onSubmit={(e) => e.preventDefault()}>
        <Select name="tail" label="Tail" value={filter.tail} put={put} options={(tails ?? []).map((t) => [t.tail, t.tail])} />
        <Select name="outcome" label="Ended" value={filter.outcome} put={put} options={[...OUTCOMES.map((o) => [o, outcomeInWords(o)] as const), ['open', 'Open']]} />
        <Select name="source" label="Readings" value={filter.source} put={put} options={SOURCES.map((s) => [s, sourceInWords(s) || 'a data unit'])} />
        <label>
          From
          <input type="date" value={filter.from ?? ''} onChange={(e) => put('from', e.target.value)} />
        </label>
        <label>
          To
          <input type="date" value={filter.to ?? ''} onChange={(e) => put('to', e.target.value)} />
        </label>
        <Words said={filter.words ?? ''} put={put} />
      </Filter>
      <FilteredRuns key={JSON.stringify(filter)} filter={filter} />
    </Main>
  );
} // oxfmt-ignore

function Select({
  name,
  label,
  value,
  options,
  put,
}: {
  name: string;
  label: string;
  value: string | undefined;
  options: readonly (readonly [string, string])[];
  put: (name: string, value: string) => void;
}) {
  return (
    <label>
      {label}
      <select value={value ?? ''} onChange={(e) => put(name, e.target.value)}>
        <option value="">any</option>
        {options.map(([id, words]) => (
          <option key={id} value={id}>
            {words}
          </option>
        ))}
      </select>
    </label>
  );
}

/** While it is typed in, the field leads and the address follows in its own time: a fast hand loses no letter to it. */
function Words({ said, put }: { said: string; put: (name: string, value: string) => void }) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    if (field.current && document.activeElement !== field.current) field.current.value = said;
  }, [said]);
  return (
    <label>
      In the conditions
      <input ref={field} type="search" defaultValue={said} placeholder="tailwind" onChange={(e) => put('words', e.target.value)} />
    </label>
  );
} // oxfmt-ignore

/** The runs that a filter leaves, page after page. */
export function FilteredRuns({ filter, without = [] }: { filter: RunFilter; without?: readonly 'tail'[] }) {
  const [after, setAfter] = useState<readonly (string | undefined)[]>([undefined]);
  return (
    <Card>
      {after.map((one, i) => (
        <PageOfRuns
          key={one ?? 'first'}
          filter={{ ...filter, ...(one !== undefined && { after: one }) }}
          head={i === 0}
          withTail={!without.includes('tail')}
          goOn={i === after.length - 1 ? (last) => setAfter([...after, last]) : null}
        />
      ))}
    </Card>
  );
}

function PageOfRuns({
  filter,
  head,
  withTail,
  goOn,
}: {
  filter: RunFilter;
  head: boolean;
  withTail: boolean;
  goOn: ((last: string) => void) | null;
}) {
  const { data: page, error } = useLoggedRunsQuery(filter);
  if (error) return <Alert role="alert">{troubleIn(error)}</Alert>;
  if (!page) return <p role="status">Reading the runs…</p>;
  if (page.runs.length === 0) return <p role="status">No run is like that.</p>;
  return (
    <>
      <Wide label="Runs">
        <ListTable>
          {head && (
            <thead>
              <tr>
                <th scope="col">Opened</th>
                {withTail && <th scope="col">Tail</th>}
                <th scope="col">Pilot</th>
                <th scope="col">Ended</th>
                <th scope="col" data-number>
                  Running
                </th>
                <th scope="col" data-number>
                  Flight
                </th>
                <th scope="col">Conditions</th>
              </tr>
            </thead>
          )}
          <tbody>
            {page.runs.map((r) => (
              <RunRow key={r.run} run={r} withTail={withTail} />
            ))}
          </tbody>
        </ListTable>
      </Wide>
      {page.more && goOn && <Button onPress={() => goOn(page.runs.at(-1)!.run)}>Older ones</Button>}
    </>
  );
}

function RunRow({ run, withTail }: { run: LoggedRun; withTail: boolean }) {
  return (
    <tr>
      <td>
        <Link to={`/debrief/${run.run}`}>{dayAndTime(run.openedAt)}</Link>
      </td>
      {withTail && <td>{run.tail}</td>}
      <td>{run.pilot}</td>
      <td data-outcome={run.outcome}>{outcomeInWords(run.outcome)}</td>
      <td data-number>{minutes(run.running_s)}</td>
      <td data-number>{run.flight_s ? minutes(run.flight_s) : '–'}</td>
      <td>{[run.conditions, sourceInWords(run.source)].filter(Boolean).join(' · ')}</td>
    </tr>
  );
}
