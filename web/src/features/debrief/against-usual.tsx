import type { ReactNode } from 'react';
import type { Debrief } from '@rouse/core/contract';
import { isWorse } from '@rouse/core/health';
import { BookedTable } from '../../ui/booked-table.tsx';
import { Small } from '../../ui/heading.ts';
import { Column, Row, UsualLine } from './usual-line.tsx';

const OUTSIDE = { usual: '', unknown: '', high: ', higher than ever', low: ', lower than ever' } as const;

type Compared = Debrief['starts'][number]['compared'][number];

/** Each figure of the start as a dot on this tail's usual range. */
export function AgainstUsual({
  start,
  booking,
  children,
}: {
  start: Debrief['starts'][number] | undefined;
  booking: Debrief['booking'];
  children?: ReactNode;
}) {
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Column aria-label="Against its usual" tabIndex={0}>
      {children}
      <Small>Against its usual</Small>
      {!start && <p>No engine start in this run.</p>}
      <ul>
        {start?.compared.map((c) => (
          <Figure key={c.spec.id} compared={c} />
        ))}
      </ul>
      {start && (
        <>
          <Small>Time past the temperature bands</Small>
          <ul>
            {start.bands.map((band) => (
              <Row key={band.band}>
                <div>
                  above {band.edge} °C <b>{band.seconds.toFixed(1)}</b>
                  <small>s</small>
                </div>
                <p>{band.allowed_s === 0 ? 'never allowed' : `${band.allowed_s} s allowed`}</p>
              </Row>
            ))}
          </ul>
        </>
      )}
      {booking && (
        <>
          <Small>Booked</Small>
          <BookedTable booking={booking} />
        </>
      )}
    </Column>
  );
}

function Figure({ compared: { spec, value, usual, verdict } }: { compared: Compared }) {
  const say = (v: number): string => v.toFixed(spec.decimals);
  return (
    <Row data-worse={isWorse(spec, verdict) || undefined}>
      <div>
        {spec.label} <b>{value === null ? '–' : say(value)}</b>
        <small>{value === null ? '' : spec.unit}</small>
      </div>
      {usual && <UsualLine value={value} usual={usual} />}
      <p>{usual ? `usual ${say(usual.low)} to ${say(usual.high)}${OUTSIDE[verdict]}` : 'too few earlier starts'}</p>
    </Row>
  );
}
