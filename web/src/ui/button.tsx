import { Button as AriaButton } from 'react-aria-components';
import styled, { css } from 'styled-components';
import { mono } from '../app/theme.ts';

export const buttonLook = css`
  font-weight: 600;
  font-size: 0.875rem;
  min-height: 3rem;
  border-radius: 9px;
  border: 1.5px solid var(--button-line);
  background: var(--button);
  color: var(--ink);
  padding: 8px 12px;
  display: inline-flex;
  gap: 8px;
  align-items: center;
  justify-content: center;
  cursor: pointer;
  text-decoration: none;
  &[data-disabled] {
    opacity: 0.55;
    cursor: default;
  }
  &[data-pressed] {
    transform: translateY(1px);
  }
`;

export const Button = styled(AriaButton)`
  ${buttonLook}
`;

/** A small button beside a title: it looks slim and still answers a gloved finger. */
export const SlimButton = styled(AriaButton)`
  ${buttonLook}
  position: relative;
  min-height: 1.875rem;
  padding: 3px 10px;
  font-size: 0.8125rem;
  &::after {
    content: '';
    position: absolute;
    inset: -9px;
  }
  &[aria-pressed='true'] {
    border-color: var(--now);
    background: var(--usual1);
  }
`;

/** The one thing to press. */
export const PrimaryButton = styled(AriaButton)`
  ${buttonLook}
  background: var(--now);
  border-color: var(--now);
  color: var(--on-now);
`;

export const Key = styled.kbd`
  ${mono}
  font-weight: 600;
  font-size: 0.6875rem;
  border: 1px solid currentColor;
  border-radius: 4px;
  padding: 0 5px;
`;
