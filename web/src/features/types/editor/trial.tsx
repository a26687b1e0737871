import { Link } from 'react-router';
import styled from 'styled-components';
import { Button, SlimButton } from '../../../ui/button.tsx';
import { PartHead } from './part-head.tsx';
import type { TriedRow } from './trial-worker.ts';
import type { DraftDesk } from './use-draft.ts';
import { sumOf, type Trial, useTrial } from './use-trial.ts';

const Body = styled.div`
  padding: 0 16px 24px;
  display: grid;
  gap: 14px;
  max-width: 53.75rem;
  > p {
    font-size: 0.875rem;
  }
`;

const SignInPage = styled.div`
  display: flex;
  gap: 10px;
  flex-wrap: wrap;
`;

const Rows = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    border-bottom: 1px solid var(--hair);
    padding: 9px 0;
    font-size: 0.84375rem;
    display: grid;
    gap: 3px;
    overflow-wrap: anywhere;
  }
  small {
    color: var(--soft);
    font-size: 0.8125rem;
  }
  li[data-outcome='stopped'] b,
  li[data-found='true'] b {
    color: var(--caution);
  }
`;

const OUTCOMES: Record<TriedRow['outcome'], string> = {
  stopped: 'would have been stopped',
  'no-longer-stopped': 'would be stopped no more',
  'told-otherwise': 'would be told otherwise',
  'as-before': 'as before',
};

/** The draft tried before anybody flies it: over the starts of the operator's tails, and flown by a simulated hand. */
export function TrialView({ desk: { row, compiled, isFresh } }: { desk: DraftDesk }) {
  const { trial, begin, stop } = useTrial();
  const draft = compiled?.type;
  const ready = isFresh && draft !== undefined && draft !== null && compiled?.problems.length === 0;
  return (
    <>
      <PartHead title="Try it" about={ready ? 'as it is written now' : 'mend what is wrong first'}>
        {trial?.going && <SlimButton onPress={stop}>Stop</SlimButton>}
      </PartHead>
      <Body>
        <SignInPage>
          <Button
            isDisabled={!ready || trial?.going === true}
            onPress={() => begin({ what: 'starts', draft: draft!, basedOn: row!.basedOn })}
          >
            Over the last 40 starts
          </Button>
          <Button
            isDisabled={!ready || trial?.going === true || draft?.simulator === undefined}
            onPress={() => begin({ what: 'flights', draft: draft! })}
          >
            Fly the list
          </Button>
        </SignInPage>
        {!trial && (
          <p>
            The first watches the recorded starts of your tails with the limits and deadlines written here, beside those
            that fly now. The second works the whole list on the simulator with a hand that finds everything right, once
            for each answer that a choice has.
          </p>
        )}
        {trial && <Outcome trial={trial} />}
      </Body>
    </>
  );
}

function Outcome({ trial }: { trial: Trial }) {
  const { what, going, of, starts, flights, trouble } = trial;
  const stuck = flights.filter((f) => f.findings.length > 0).length;
  const said = what === 'starts' ? saidOfStarts(starts) : saidOfFlights(flights.length, stuck);
  return (
    <>
      {trouble !== null && <p role="alert">{trouble}</p>}
      <p role="status" data-tried={going ? 'going' : 'over'}>
        {going ? `${what === 'starts' ? starts.length : flights.length} of ${of ?? '…'}` : said}
      </p>
      {what === 'starts' ? (
        <Starts rows={starts} />
      ) : (
        <Rows aria-label="Flights of the list">
          {flights.map((f) => (
            <li key={f.words} data-found={f.findings.length > 0}>
              <b>{f.words}</b>
              <small>{f.findings.map((n) => `${n.message}; ${n.remedy}`).join('. ') || 'flown to its end'}</small>
            </li>
          ))}
        </Rows>
      )}
    </>
  );
}

const saidOfStarts = (rows: readonly TriedRow[]): string =>
  rows.length === 0 ? 'No start of this type is kept yet.' : sumOf(rows);

const saidOfFlights = (flown: number, stuck: number): string =>
  stuck === 0 ? `Flown ${flown} times to its end.` : `${stuck} of ${flown} flights did not come to their end.`;

/** Those that would go otherwise first, each with the way to its record. */
function Starts({ rows }: { rows: readonly TriedRow[] }) {
  const otherwise = rows.filter((r) => r.outcome !== 'as-before');
  const same = rows.filter((r) => r.outcome === 'as-before');
  return (
    <Rows aria-label="Starts tried">
      {[...otherwise, ...same].map((r) => (
        <li key={`${r.run}${r.watch}${r.attempt}`} data-outcome={r.outcome}>
          <span>
            <Link to={`/debrief/${r.run}`}>
              {r.tail}, {r.at.slice(0, 16).replace('T', ' ')} UTC
            </Link>{' '}
            <b>{OUTCOMES[r.outcome]}</b>
          </span>
          {r.outcome !== 'as-before' && (
            <small>
              Now: {wordsOf(r.before)}. With the draft: {wordsOf(r.after)}.
            </small>
          )}
        </li>
      ))}
    </Rows>
  );
}

const wordsOf = (calls: TriedRow['before']): string => calls.map((c) => c.text).join('; ') || 'nothing said';
