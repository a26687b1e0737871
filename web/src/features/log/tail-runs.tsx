import { useParams } from 'react-router';
import { useLoggedTailsQuery } from '../../app/log-data.ts';
import { Main } from './page.tsx';
import { FilteredRuns } from './runs.tsx';

/** The runs of one tail, newest first. */
export function TailRuns() {
  const { aircraft } = useParams();
  const { data: tails } = useLoggedTailsQuery();
  const tail = tails?.find((t) => t.aircraft === aircraft)?.tail;
  return (
    <Main>
      <title>{`Runs of ${tail ?? ''} · Rouse`}</title>
      {tail && <FilteredRuns key={tail} filter={{ tail }} without={['tail']} />}
    </Main>
  );
}
