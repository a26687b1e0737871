import type { ExceedanceSummary } from '@rouse/core/contract';
import { Link, useParams } from 'react-router';
import { useExceedancesQuery } from '../../app/log-data.ts';
import { troubleIn } from '../../app/server-data.ts';
import { Alert } from '../../ui/field-look.ts';
import { dayAndTime } from '../../ui/words.ts';
import { Card, ListTable, Main, Wide } from './page.tsx';

/** What one tail has passed, and who released it. */
export function ExceedancesView() {
  const { aircraft } = useParams();
  const { currentData: listed, error } = useExceedancesQuery(aircraft!);
  return (
    <Main>
      <title>Exceedances · Rouse</title>
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
      {!listed && !error && <p role="status">Reading the exceedances…</p>}
      {listed?.length === 0 && <p role="status">No limit of this aircraft was passed for longer than is allowed.</p>}
      {listed && listed.length > 0 && (
        <Card>
          <Wide label="Exceedances">
            <ListTable>
              <thead>
                <tr>
                  <th scope="col">When</th>
                  <th scope="col">What</th>
                  <th scope="col">How far</th>
                  <th scope="col">Released</th>
                </tr>
              </thead>
              <tbody>
                {listed.map((e) => (
                  <tr key={`${e.run}/${e.seq}`}>
                    <td>
                      <Link to={`/log/exceedances/${e.run}/${e.seq}`}>{dayAndTime(e.record.at)}</Link>
                    </td>
                    <td>{e.title}</td>
                    <td>{e.detail}</td>
                    <td data-weight={e.release ? undefined : 'warning'}>{releaseWords(e)}</td>
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

function releaseWords({ release, disputed }: ExceedanceSummary): string {
  if (release) return `${release.engineer}, ${dayAndTime(release.at)}`;
  return disputed ? 'open, disputed: it holds the next start' : 'open: it holds the next start';
}
