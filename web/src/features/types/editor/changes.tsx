import { diffTypes } from '@rouse/core/aircraft';
import { skipToken } from '@reduxjs/toolkit/query/react';
import styled from 'styled-components';
import { troubleIn, useTypeQuery } from '../../../app/server-data.ts';
import { PartHead } from './part-head.tsx';
import type { DraftDesk } from './use-draft.ts';

const Table = styled.table`
  border-collapse: collapse;
  margin: 0 16px 16px;
  font-size: 0.84375rem;
  th,
  td {
    text-align: left;
    padding: 7px 14px 7px 0;
    border-bottom: 1px solid var(--hair);
    vertical-align: top;
    overflow-wrap: anywhere;
  }
  th {
    color: var(--soft);
    font-weight: 600;
  }
  del {
    color: var(--soft);
  }
`;

/** Every difference from the version that flies, in words. */
export function Changes({ desk: { row, compiled } }: { desk: DraftDesk }) {
  const { typeId, basedOn } = row!;
  const { currentData: older, error } = useTypeQuery(basedOn === null ? skipToken : { id: typeId, version: basedOn });
  const changes = older && compiled?.type ? diffTypes(older, compiled.type) : [];
  const about =
    basedOn === null ? 'a new type: nothing to compare it with' : `${changes.length} since version ${basedOn}`;
  return (
    <>
      <PartHead title="What has changed" about={about}>
        {null}
      </PartHead>
      {error && <p role="alert">{troubleIn(error)}</p>}
      {changes.length > 0 && (
        <Table id="draft-changes">
          <thead>
            <tr>
              <th scope="col">Where</th>
              <th scope="col">Before</th>
              <th scope="col">Now</th>
            </tr>
          </thead>
          <tbody>
            {changes.map((c, i) => (
              <tr key={i}>
                <td>{c.path.join(' › ')}</td>
                <td>{c.before === null ? 'not there' : <del>{c.before}</del>}</td>
                <td>{c.after ?? 'gone'}</td>
              </tr>
            ))}
          </tbody>
        </Table>
      )}
    </>
  );
}
