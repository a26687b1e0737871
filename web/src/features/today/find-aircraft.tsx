import { Link } from 'react-router';
import styled from 'styled-components';
import { troubleIn, useTodayQuery } from '../../app/server-data.ts';
import { buttonLook } from '../../ui/button.tsx';

const Page = styled.main`
  padding: 26px;
  display: grid;
  gap: 14px;
  align-content: start;
  justify-items: start;
`;

const Choice = styled(Link)`
  ${buttonLook}
  min-width: 320px;
  justify-content: flex-start;
  span {
    color: var(--soft);
    font-weight: 450;
  }
`;

/** A place that is about one aircraft, without one: which? */
export function FindAircraft({ title, place }: { title: string; place: string }) {
  const { data: today, error } = useTodayQuery();
  const failure = troubleIn(error);
  return (
    <Page>
      <title>{`${title} · Rouse`}</title>
      <h1>{title}</h1>
      <p role="status">{failure ?? (today ? 'For which aircraft?' : 'Reading the fleet…')}</p>
      {today?.aircraft.map((a, i) => (
        <Choice key={a.aircraft} to={`${place}/${a.aircraft}`} autoFocus={i === 0}>
          {a.tail} <span>{a.type.name}</span>
        </Choice>
      ))}
    </Page>
  );
}
