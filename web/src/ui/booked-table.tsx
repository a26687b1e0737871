import type { Booking } from '@rouse/core/shutdown';
import styled from 'styled-components';
import { mono } from '../app/theme.ts';
import { stopwatch } from './words.ts';

const Table = styled.table`
  border-collapse: collapse;
  width: 100%;
  align-self: start;
  font-size: 0.875rem;
  td {
    padding: 3px 10px 3px 0;
    border-top: 1px solid var(--hair);
  }
  td:nth-child(2) {
    ${mono}
    font-weight: 650;
  }
  td:last-child {
    color: var(--soft);
  }
`;

const counted = (n: number, what: string): string => `${n} ${what}${n === 1 ? '' : 's'}`;
const whole = (s: number): string => stopwatch(Math.floor(s)).replace(/\.0$/, '');

/** What a run adds to the books: hours and starts of each engine, flight, cycles, ratings and what they cost. */
export function BookedTable({ booking }: { booking: Booking }) {
  return (
    <Table data-booked>
      <tbody>
        {booking.engines.map((e) => (
          <tr key={e.engine}>
            <td>Engine {e.engine}</td>
            <td>{whole(e.running_s)}</td>
            <td>{counted(e.starts, 'start')}</td>
          </tr>
        ))}
        <tr>
          <td>Flight</td>
          <td>{whole(booking.flight_s)}</td>
          <td>{counted(booking.rotorCycles, 'rotor cycle')}</td>
        </tr>
        {booking.ratings.map((r) => (
          <tr key={`${r.engine}/${r.rating}`}>
            <td>
              {r.label}, engine {r.engine}
            </td>
            <td>{whole(Math.ceil(r.booked_s))}</td>
            <td>
              {counted(r.uses, 'use')}
              {r.inspection ? `. ${r.inspection}` : ''}
            </td>
          </tr>
        ))}
      </tbody>
    </Table>
  );
}
