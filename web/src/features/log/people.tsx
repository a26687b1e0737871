import { Link, useParams } from 'react-router';
import styled from 'styled-components';
import { useLoggedPeopleQuery, usePersonLogQuery } from '../../app/log-data.ts';
import { troubleIn } from '../../app/server-data.ts';
import { Alert } from '../../ui/field-look.ts';
import { Small } from '../../ui/heading.ts';
import { dayAndTime, hours } from '../../ui/words.ts';
import { Card, ListTable, Main, Wide } from './page.tsx';
import { FilteredRuns } from './runs.tsx';

/** Whose log can be looked at. */
export function PeopleView() {
  const { data: people, error } = useLoggedPeopleQuery();
  return (
    <Main>
      <title>People · Log · Rouse</title>
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
      <Card>
        <ListTable>
          <tbody>
            {people?.map((p) => (
              <tr key={p.person}>
                <td>
                  <Link to={`/log/people/${p.person}`}>{p.name}</Link>
                </td>
                <td>{p.roles.join(', ')}</td>
              </tr>
            ))}
          </tbody>
        </ListTable>
      </Card>
    </Main>
  );
}

const Facts = styled.dl`
  display: flex;
  flex-wrap: wrap;
  gap: 10px 34px;
  dt {
    font-size: 0.78125rem;
    color: var(--soft);
  }
  dd {
    margin: 0;
    font-size: 1.25rem;
    font-weight: 680;
    font-variant-numeric: tabular-nums;
  }
`;

/** What one person flew and practised, and how fresh it is. */
export function PersonView() {
  const { person } = useParams();
  const { data: log, error } = usePersonLogQuery(person ?? null);
  if (error) return <Main><Alert role="alert">{troubleIn(error)}</Alert></Main>; // oxfmt-ignore
  if (!log) return <Main><p role="status">Reading the log…</p></Main>; // oxfmt-ignore
  const { recency } = log;
  return (
    <Main>
      <title>{`${log.name} · Log · Rouse`}</title>
      <h2>{log.name}</h2>
      <Card>
        <Facts>
          <div>
            <dt>Last run</dt>
            <dd>{recency.lastAt === null ? '–' : dayAndTime(recency.lastAt)}</dd>
          </div>
          <div>
            <dt>Runs in 90 days</dt>
            <dd>{recency.runs90d}</dd>
          </div>
          <div>
            <dt>Starts in 90 days</dt>
            <dd>{recency.starts90d}</dd>
          </div>
          <div>
            <dt>Flight in 90 days</dt>
            <dd>{hours(recency.flight90d_s)}</dd>
          </div>
        </Facts>
      </Card>
      {log.tails.length > 0 && (
        <Card>
          <Small as="h3">By tail</Small>
          <Wide label="By tail">
            <ListTable>
              <tbody>
                {log.tails.map((t) => (
                  <tr key={t.tail}>
                    <td>
                      <b>{t.tail}</b>
                    </td>
                    <td>{t.type}</td>
                    <td data-number>{t.runs} runs</td>
                    <td data-number>{hours(t.flight_s)} flight</td>
                    <td>last {dayAndTime(t.lastAt)}</td>
                  </tr>
                ))}
              </tbody>
            </ListTable>
          </Wide>
        </Card>
      )}
      {log.drills.length > 0 && (
        <Card>
          <Small as="h3">Practised</Small>
          <ListTable>
            <tbody>
              {log.drills.map((d) => (
                <tr key={d.at}>
                  <td>{dayAndTime(d.at)}</td>
                  <td>{d.type}</td>
                  <td>{d.exercise}</td>
                  <td>{d.ended}</td>
                </tr>
              ))}
            </tbody>
          </ListTable>
        </Card>
      )}
      <FilteredRuns filter={{ pilot: log.person }} />
    </Main>
  );
}
