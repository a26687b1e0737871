import { diffTypes, type TypeFile } from '@rouse/core/aircraft';
import { skipToken } from '@reduxjs/toolkit/query/react';
import { Link, useParams, useSearchParams } from 'react-router';
import styled from 'styled-components';
import { Button } from '../../ui/button.tsx';
import { Aid, PREVAILS } from '../../ui/heading.ts';
import { troubleIn, useTypeQuery } from '../../app/server-data.ts';
import { Airframe, Charts, Limits, Procedure } from './chapters.tsx';
import { OperatorPolicy } from './operator-policy.tsx';
import { Chapter } from './sheet.ts';
import { Table } from '../../ui/table.tsx';

const Page = styled.main`
  overflow: auto;
  padding: 20px 26px;
  display: grid;
  gap: 16px;
  align-content: start;
  grid-auto-rows: max-content;
  header {
    display: flex;
    gap: 16px;
    align-items: center;
    flex-wrap: wrap;
  }
  header > :last-child {
    margin-left: auto;
  }
  nav {
    display: flex;
    gap: 6px 18px;
    flex-wrap: wrap;
    font-size: 0.875rem;
  }
  nav a {
    padding: 10px 0;
  }
  @media print {
    overflow: visible;
    padding: 0;
    nav,
    button {
      display: none;
    }
  }
`;

/** One version of a type, readable and printable. With ?against=N it begins with what changed since that version. */
export function TypeView() {
  const { type: id = '', version = '' } = useParams();
  const [search] = useSearchParams();
  const against = search.get('against');
  const { currentData: type, error } = useTypeQuery({ id, version });
  const earlier = useTypeQuery(against === null ? skipToken : { id, version: against });
  const older = earlier.currentData;
  const failure = troubleIn(error) ?? troubleIn(earlier.error);
  if (failure !== null)
    return (
      <Page>
        <h1>This type cannot be shown</h1>
        <p role="alert">{failure}</p>
        <Link to="/types">All types</Link>
      </Page>
    );
  if (!type) return <Page role="status">Reading the type…</Page>;
  return (
    <Page>
      <title>{`${type.name} · Rouse`}</title>
      <header>
        <div>
          <h1>
            {type.maker} {type.name}, version {type.version}
          </h1>
          <Aid>
            {type.role}. {PREVAILS}
          </Aid>
        </div>
        <a href={`/api/types/${type.id}/${type.version}/booklet.pdf`} download>
          Booklet (PDF)
        </a>
        <Button onPress={() => window.print()}>Print</Button>
      </header>
      <nav aria-label="Chapters">
        {against !== null && <a href="#changes">Changes</a>}
        <a href="#limits">Limits</a>
        <a href="#charts">Charts</a>
        <a href="#airframe">Loading and wind</a>
        <a href="#ways">Ways of working</a>
        {type.legs
          .filter((l) => type.items.some((i) => i.leg === l.id))
          .map((l) => (
            <a key={l.id} href={`#leg-${l.id}`}>
              {l.label}
            </a>
          ))}
      </nav>
      {older && String(older.version) === against && <Changes older={older} newer={type} />}
      <Limits type={type} />
      <Charts type={type} />
      <Airframe type={type} />
      <OperatorPolicy type={type} />
      <Procedure type={type} />
    </Page>
  );
}

function Changes({ older, newer }: { older: TypeFile; newer: TypeFile }) {
  const changes = diffTypes(older, newer);
  return (
    <Chapter id="changes">
      <h2>
        What changed from version {older.version} to {newer.version}
      </h2>
      {changes.length === 0 ? (
        <p>Nothing.</p>
      ) : (
        <Table>
          <thead>
            <tr>
              <th>Where</th>
              <th>Before</th>
              <th>After</th>
            </tr>
          </thead>
          <tbody>
            {changes.map((c) => (
              <tr key={`${c.path.join()} ${c.before} ${c.after}`}>
                <td>{c.path.join(' › ')}</td>
                <td>{c.before ?? 'not there'}</td>
                <td>{c.after ?? 'gone'}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </Chapter>
  );
}
