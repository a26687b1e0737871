import { Link } from 'react-router';
import { useLoggedTailsQuery } from '../../app/log-data.ts';
import { troubleIn } from '../../app/server-data.ts';
import { Alert } from '../../ui/field-look.ts';
import { dayAndTime } from '../../ui/words.ts';
import { Card, ListTable, Main, Wide } from './page.tsx';

/** Every tail with how much there is of it, and what its figures say. */
export function TailsView() {
  const { data: tails, error } = useLoggedTailsQuery(undefined, { pollingInterval: 10_000 });
  return (
    <Main>
      <title>Tails · Log · Rouse</title>
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
      {!tails && !error && <p role="status">Reading the log…</p>}
      {tails && (
        <Card>
          <Wide label="Tails">
            <ListTable>
              <thead>
                <tr>
                  <th scope="col">Tail</th>
                  <th scope="col">Type</th>
                  <th scope="col" data-number>
                    Runs
                  </th>
                  <th scope="col">Last run</th>
                  <th scope="col">Exceedances</th>
                  <th scope="col">Trends</th>
                </tr>
              </thead>
              <tbody>
                {tails.map((t) => (
                  <tr key={t.aircraft}>
                    <td>
                      <Link to={`/log/${t.aircraft}/trends`}>{t.tail}</Link>
                    </td>
                    <td>{t.type.name}</td>
                    <td data-number>{t.runs}</td>
                    <td>{t.lastRunAt === null ? '–' : dayAndTime(t.lastRunAt)}</td>
                    <td data-weight={t.openExceedances > 0 ? 'warning' : undefined}>
                      {t.openExceedances > 0 ? `${t.openExceedances} open` : 'none open'}
                    </td>
                    <td data-weight={t.findings?.length ? 'caution' : undefined}>{sayFindings(t.findings)}</td>
                  </tr>
                ))}
              </tbody>
            </ListTable>
          </Wide>
        </Card>
      )}
    </Main>
  );
}

function sayFindings(findings: readonly string[] | null): string {
  if (findings === null) return 'being worked out';
  return findings.length === 0 ? 'as usual, or too few starts' : findings.join(' ');
}
