import styled from 'styled-components';
import type { Refused } from './use-replay.ts';

export const Page = styled.main`
  overflow: auto;
  padding: 22px 26px;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  gap: 16px;
  align-content: start;
  label {
    display: grid;
    grid-template-columns: minmax(0, auto);
    max-width: 100%;
    gap: 4px;
    font-size: 0.8125rem;
    color: var(--soft);
  }
  select,
  input {
    min-height: 3rem;
    padding: 6px 10px;
    border: 1px solid var(--button-line);
    border-radius: 8px;
    background: var(--sheet);
    color: var(--ink);
    font: inherit;
    max-width: 100%;
  }
  input[type='file'] {
    padding-top: 11px;
  }
`;

export const Choices = styled.div`
  display: flex;
  gap: 18px;
  flex-wrap: wrap;
  align-items: end;
`;

const Alert = styled.div`
  background: var(--warning-paper);
  color: var(--warning);
  border-radius: 8px;
  padding: 10px 12px;
`;

export const Meter = styled.div`
  display: flex;
  gap: 16px;
  align-items: center;
  progress {
    accent-color: var(--now);
    flex: 1;
    height: 14px;
  }
`;

/** Why a file is not read, where in it, and what to do. */
export function RefusedFile({ refused }: { refused: Refused | null }) {
  if (!refused) return null;
  return (
    <Alert role="alert" data-refused>
      {refused.row > 0 && `Row ${refused.row}`}
      {refused.column && `, column ${refused.column}`}
      {refused.row > 0 && ': '}
      {refused.message}. {refused.remedy}
    </Alert>
  );
}
