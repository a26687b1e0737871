import type { ReactNode } from 'react';
import styled from 'styled-components';
import { phone } from '../../app/theme.ts';

const Main = styled.main`
  overflow: auto;
  min-width: 0;
  padding: 22px 26px 40px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
  align-content: start;
  h1 {
    font-size: 1.375rem;
    font-weight: 650;
  }
  > p {
    max-width: 72ch;
  }
  ${phone} {
    padding: 14px;
  }
`;

export const Card = styled.section`
  background: var(--sheet);
  border: 1px solid var(--line);
  border-radius: 12px;
  padding: 16px 18px 18px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 12px;
  max-width: 61.25rem;
  min-width: 0;
  p {
    font-size: 0.875rem;
    max-width: 72ch;
  }
`;

export const Rows = styled.ul`
  display: grid;
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
    align-items: center;
    border-bottom: 1px solid var(--hair);
    padding: 9px 0;
    font-size: 0.875rem;
    min-width: 0;
  }
  li:last-child {
    border-bottom: 0;
  }
  li > span {
    flex: 1 1 13.75rem;
    min-width: 0;
    overflow-wrap: anywhere;
  }
  small {
    color: var(--soft);
    font-size: 0.8125rem;
  }
`;

/** What is shown once and copied: a link, a token. */
export const Shown = styled.code`
  display: block;
  background: var(--deep);
  border: 1px solid var(--line);
  border-radius: 8px;
  padding: 10px 12px;
  font-size: 0.8125rem;
  overflow-wrap: anywhere;
  user-select: all;
`;

export function SetUpPage({ title, about, children }: { title: string; about?: string; children: ReactNode }) {
  return (
    <Main>
      <title>{`${title} · Set up · Rouse`}</title>
      <h1>{title}</h1>
      {about !== undefined && <p>{about}</p>}
      {children}
    </Main>
  );
}
