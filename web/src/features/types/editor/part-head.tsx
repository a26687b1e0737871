import type { ReactNode } from 'react';
import styled from 'styled-components';

const Head = styled.div`
  display: flex;
  gap: 8px 12px;
  align-items: center;
  flex-wrap: wrap;
  padding: 12px 16px 8px;
  position: sticky;
  top: 0;
  z-index: 3;
  background: var(--paper);
  h2 {
    font-size: 1.0625rem;
    font-weight: 690;
  }
  small {
    color: var(--soft);
    font-size: 0.8125rem;
  }
  > div {
    margin-left: auto;
    display: flex;
    gap: 8px;
  }
`;

/** Title of the part that is open, what it holds, and what can be done with it. */
export function PartHead({ title, about, children }: { title: string; about: string; children: ReactNode }) {
  return (
    <Head>
      <h2>{title}</h2>
      <small>{about}</small>
      <div>{children}</div>
    </Head>
  );
}
