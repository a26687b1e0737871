import type { TypeFile } from '@rouse/core/aircraft';
import type { PracticeNow } from '@rouse/core/drill';
import styled from 'styled-components';
import { mono } from '../../../app/theme.ts';
import { Aid, Small } from '../../../ui/heading.ts';
import { stopwatch } from '../../../ui/words.ts';

const Rows = styled.ul`
  li {
    padding: 6px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.875rem;
  }
  b {
    ${mono}
    font-size: 1.375rem;
    display: block;
    line-height: 1.15;
  }
  li[data-used] b {
    color: var(--caution);
  }
  li[data-over] b {
    color: var(--warning);
  }
  small {
    color: var(--soft);
    font-size: 0.78125rem;
    display: block;
  }
`;

/** What is left of the one-engine ratings, engine by engine, and what using them would have cost. */
export function Timers({ type, now }: { type: TypeFile; now: PracticeNow | null }) {
  const ratings = now?.ratings.filter((r) => r.ledger === 'one-engine') ?? [];
  const used = ratings.filter((r) => r.booked_s > 0 || r.inUse);
  const inspection = used.find((r) => r.maintenance)?.inspection;
  return (
    <>
      <Small>Ratings of the other engine</Small>
      {now === null && <Aid>Their time runs when an engine has failed. In training mode none is used.</Aid>}
      <Rows aria-live="off">
        {(used.length > 0 ? used : ratings.filter((r) => r.engine === 2)).map((r) => (
          <li
            key={`${r.engine}/${r.rating}`}
            data-timer={r.rating}
            data-used={r.inUse || undefined}
            data-over={(r.inUse && r.remaining_s === 0) || undefined}
          >
            {r.label}
            {used.length > 0 ? `, engine ${r.engine}` : ''}
            <b>{stopwatch(Math.floor(r.remaining_s))}</b>
            <small>
              {r.inUse ? 'running. ' : ''}
              {r.booked_s > 0 ? `used ${Math.ceil(r.booked_s)} s in ${r.uses} use${r.uses === 1 ? '' : 's'}. ` : ''}
              {r.periods_remaining === null
                ? ''
                : `${r.periods_remaining} use${r.periods_remaining === 1 ? '' : 's'} left`}
            </small>
          </li>
        ))}
      </Rows>
      {inspection && <Aid>On the real aircraft: {inspection}.</Aid>}
      <Small>In this order</Small>
      <Rows as="ol">
        {(type.ratings?.oneEngine?.actions ?? []).map((a, i) => (
          <li key={a.do}>
            {i + 1} {a.do}
          </li>
        ))}
      </Rows>
    </>
  );
}
