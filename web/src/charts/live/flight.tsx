import type { RatingNow } from '@rouse/core/ratings';
import { useMemo } from 'react';
import { useAppSelector } from '../../app/store.ts';
import { ChartTitle } from '../frame.tsx';
import { stopwatch } from '../../ui/words.ts';
import type { WatchedRun } from '../../run/run-slice.ts';
import { FigureRows } from './figures.ts';
import { lanesOf } from './lane.ts';
import { Lanes } from './lanes.tsx';

const SECONDS = 60;

/** In the air: torque and rotor over the last minute, and what is left of the ratings of each engine. */
export function LiveFlight({ followed: { type } }: { followed: WatchedRun }) {
  const ratings = useAppSelector((s) => s.run.status?.ratings);
  const lanes = useMemo(() => {
    const { rotor, rotor_pct } = type.runUpWatch;
    return lanesOf(type, [
      ...(type.roles.power ?? []).map((channel) => ({ channel })),
      { channel: rotor, window: rotor_pct },
    ]);
  }, [type]);
  return (
    <>
      <ChartTitle title="In flight" about="watched; power and rotor over the last minute" />
      <Lanes lanes={lanes} seconds={SECONDS} label="Power and rotor speed over the last minute" />
      <ChartTitle title="Ratings" about="used and left in this flight" />
      <RatingTable ratings={ratings ?? []} engines={type.engines.length} />
    </>
  );
}

function RatingTable({ ratings, engines }: { ratings: readonly RatingNow[]; engines: number }) {
  return (
    <FigureRows>
      <thead>
        <tr>
          <th>Rating</th>
          <th>Left of this use</th>
          <th>Used</th>
          <th>Uses left</th>
          <th>Costs</th>
        </tr>
      </thead>
      <tbody>
        {ratings.map((r) => (
          <tr key={`${r.engine}/${r.rating}`} data-rating={r.rating} data-verdict={r.inUse ? 'fault' : undefined}>
            <td>
              {r.label}
              {engines > 1 ? `, engine ${r.engine}` : ''}
            </td>
            <td>{stopwatch(Math.floor(r.remaining_s))}</td>
            <td>
              {r.booked_s > 0 ? stopwatch(Math.ceil(r.booked_s)) : r.unseen_s > 0 ? 'not known: data was lost' : 'none'}
            </td>
            <td>{r.periods_remaining === null ? 'any number' : r.periods_remaining}</td>
            <td>{r.maintenance ? (r.inspection ?? 'an inspection') : ''}</td>
          </tr>
        ))}
      </tbody>
    </FigureRows>
  );
}
