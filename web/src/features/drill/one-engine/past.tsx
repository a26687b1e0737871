import type { PracticeRow } from '@rouse/core/contract';
import { convert } from '@rouse/core/quantity';
import { ChartTitle } from '../../../charts/frame.tsx';
import { Aid } from '../../../ui/heading.ts';
import { dayAndTime } from '../../../ui/words.ts';

const ENDED = {
  landed: 'landed',
  hard: 'landed hard',
  stopped: 'ended in the air',
  'flown-away': 'flown away',
} as const;

/** What this person has practised, newest first. */
export function Past({ past }: { past: readonly PracticeRow[] }) {
  return (
    <>
      <ChartTitle title="Your practice" about="kept for you, apart from every aircraft" />
      {past.length === 0 ? (
        <Aid>
          Nothing yet. Begin a hover, let an engine fail with 1 or 2, and hold the rotor with the arrow keys, the slider
          or a game controller. T is the training mode.
        </Aid>
      ) : (
        <ul data-past>
          {past.map(({ id, at, type, exercise, result }) => (
            <li key={id}>
              {dayAndTime(at)}: {type}, {exercise === 'failure' ? 'engine failure' : 'training mode'},{' '}
              {Math.round(result.mass_kg)} kg, {Math.round(result.oat_C)} °C. Rotor to {result.nr_least_pct.toFixed(1)}{' '}
              %, {Math.ceil(convert(result.height_lost_m, 'm', 'ft'))} ft lost, {ENDED[result.ended]}
              {result.ratings.map((r) => `; ${r.label} ${Math.ceil(r.booked_s)} s`).join('')}
            </li>
          ))}
        </ul>
      )}
    </>
  );
}
