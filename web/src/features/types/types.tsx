import { Link } from 'react-router';
import styled from 'styled-components';
import { Aid, PREVAILS } from '../../ui/heading.ts';
import { troubleIn, useTypesQuery } from '../../app/server-data.ts';

const Page = styled.main`
  overflow: auto;
  padding: 22px 26px;
  display: grid;
  gap: 16px;
  align-content: start;
`;

const Cards = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(300px, 1fr));
  gap: 16px;
  li {
    background: var(--sheet);
    border: 1px solid var(--line);
    border-radius: 14px;
    padding: 16px 18px;
  }
  h2 {
    font-size: 20px;
    font-weight: 720;
  }
  p {
    color: var(--soft);
    font-size: 14px;
    margin-bottom: 8px;
  }
  a {
    display: inline-block;
    padding: 12px 14px 12px 0;
  }
`;

/** Every type with its versions. */
export function TypesView() {
  const { data: types, error } = useTypesQuery();
  const failure = troubleIn(error);
  const newest = types?.filter((t) => !types.some((o) => o.id === t.id && o.version > t.version)) ?? [];
  return (
    <Page>
      <title>Types · Rouse</title>
      <h1>Types</h1>
      {failure !== null && <p role="alert">{failure}</p>}
      {!types && failure === null && <p role="status">Reading the types…</p>}
      <Cards>
        {newest.map((t) => {
          const earlier = types!.filter((o) => o.id === t.id && o.version < t.version);
          return (
            <li key={t.id}>
              <h2>{t.name}</h2>
              <p>{t.role}</p>
              <Link to={`/types/${t.id}/${t.version}`}>Version {t.version}</Link>
              {earlier.map((o) => (
                <Link key={o.version} to={`/types/${t.id}/${t.version}?against=${o.version}`}>
                  what changed since {o.version}
                </Link>
              ))}
            </li>
          );
        })}
      </Cards>
      <Aid>{PREVAILS}</Aid>
    </Page>
  );
}
