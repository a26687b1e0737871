import { troubleIn } from '../../app/server-data.ts';
import { useAuditQuery } from '../../app/session-data.ts';
import { Alert } from '../../ui/field-look.ts';
import { Card, Rows, SetUpPage } from './page.tsx';

/** Every act that matters, newest first, each sealed to the one before. */
export function Audit() {
  const { data, error } = useAuditQuery();
  return (
    <SetUpPage
      title="What was done"
      about="Who changed what is set up here. Nothing in this list can be changed without breaking its chain."
    >
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
      {data && (
        <>
          <p role="status" data-chain={data.broken === null ? 'whole' : 'broken'}>
            {data.broken === null
              ? `${data.entries.length} entries, the chain is whole.`
              : `The chain is broken at entry ${data.broken}: somebody has changed the database by hand.`}
          </p>
          <Card>
            <Rows aria-label="What was done">
              {data.entries.map((e) => (
                <li key={e.seq}>
                  <small>
                    {e.seq} · {e.at.slice(0, 16).replace('T', ' ')} UTC
                  </small>
                  <span>
                    <b>{e.by}</b>: {e.words}
                  </span>
                </li>
              ))}
            </Rows>
          </Card>
        </>
      )}
    </SetUpPage>
  );
}
