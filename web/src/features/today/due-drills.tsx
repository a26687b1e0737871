import { skipToken } from '@reduxjs/toolkit/query';
import { Link } from 'react-router';
import { useDueDrillsQuery } from '../../app/drill-data.ts';
import { useMay } from '../../app/session-data.ts';

/** What of a person's drills is due again today, and how long it takes; nothing where nothing is. */
export function DueDrills() {
  const mayDrill = useMay('drill');
  const { data } = useDueDrillsQuery(mayDrill ? undefined : skipToken);
  if (!data || data.lessons === 0 || data.type === null) return null;
  const words = data.lessons === 1 ? 'One short drill is due' : `${data.lessons} short drills are due`;
  const minutes = data.minutes === 1 ? 'one minute' : `${data.minutes} minutes`;
  return (
    <Link to={`/drill?type=${data.type}`} data-due-drills={data.lessons}>
      {words}, {minutes}
    </Link>
  );
}
