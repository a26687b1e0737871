import { isRouteErrorResponse, Link, useRouteError } from 'react-router';
import styled from 'styled-components';

const Page = styled.main`
  display: grid;
  gap: 12px;
  place-content: center;
  height: 100%;
  padding: 24px;
  max-width: 60ch;
  margin: 0 auto;
`;

/** The page for what went wrong: what was kept, and the way back. */
export function Trouble() {
  const error = useRouteError();
  const message = isRouteErrorResponse(error)
    ? error.status === 404
      ? 'There is no such page.'
      : error.statusText
    : error instanceof Error
      ? error.message
      : 'Something went wrong on this page.';
  return (
    <Page>
      <h1>{message}</h1>
      <p>
        The record is on the server and nothing in it was lost. The aircraft is watched there, whether this page is open
        or not.
      </p>
      <Link to="/">Back to Today</Link>
    </Page>
  );
}
