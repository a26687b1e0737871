import type { Item } from '@rouse/core/aircraft';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import type { FollowedRun } from '../../run/run-slice.ts';

export interface AnswerProps {
  followed: FollowedRun;
  item: Item;
}

/** What a person fills in on the card of an item. */
export const Form = styled.form`
  display: grid;
  gap: 8px;
  margin-top: 11px;
  label {
    font-weight: 650;
    font-size: 0.875rem;
  }
  input:not([type='checkbox']) {
    font: inherit;
    ${mono}
    font-size: 1.25rem;
    color: var(--ink);
    background: var(--sheet);
    border: 1.5px solid var(--button-line);
    border-radius: 8px;
    min-height: 3rem;
    padding: 6px 10px;
    width: 100%;
  }
  > div {
    display: flex;
    gap: 8px;
    align-items: end;
  }
  small {
    color: var(--soft);
    font-size: 0.8125rem;
  }
  small[role='alert'] {
    color: var(--warning);
  }
`;
