import styled from 'styled-components';
import { phone } from '../../app/theme.ts';

/** A page for whoever is not in yet: one column of sections. */
export const SignInPage = styled.main`
  height: 100%;
  overflow: auto;
  display: grid;
  align-content: start;
  justify-content: center;
  grid-template-columns: minmax(0, 35rem);
  gap: 22px;
  padding: 40px 24px;
  h1 {
    font-size: 1.625rem;
    font-weight: 650;
  }
  section {
    background: var(--sheet);
    border: 1px solid var(--line);
    border-radius: 12px;
    padding: 18px 20px 20px;
    display: grid;
    gap: 12px;
  }
  ${phone} {
    padding: 20px 14px;
  }
`;
