import { NavLink } from 'react-router';
import styled, { css } from 'styled-components';
import { phone, tiny } from './theme.ts';

/** The icon stands for the word, which stays there for who hears the page. */
export const iconAlone = css`
  flex: 1 1 0;
  height: 48px;
  font-size: 0;
`;

/** One place of the rail. */
export const RailLink = styled(NavLink)`
  width: 4rem;
  height: 3.375rem;
  border-radius: 10px;
  display: flex;
  flex-direction: column;
  align-items: center;
  justify-content: center;
  gap: 3px;
  font-size: 0.75rem;
  color: inherit;
  text-decoration: none;
  ${phone} {
    font-size: 0.65625rem;
    min-width: 0;
  }
  ${tiny} {
    ${iconAlone}
  }
  &.active {
    background: var(--rail-on);
    color: var(--rail-on-ink);
    font-weight: 650;
  }
`;
