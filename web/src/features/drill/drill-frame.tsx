import styled from 'styled-components';
import { phone, upright } from '../../app/theme.ts';
import { Columns, PageHead } from '../../ui/columns.ts';

/** A frame and a word that no real run has. */
export const DrillFrame = styled(Columns)`
  --left: 15.75rem;
  --right: 14.5rem;
  grid-template: auto minmax(0, 1fr) / var(--left) minmax(0, 1fr) var(--right);
  grid-template-areas: 'head head head' 'left mid right';
  border: 6px dashed var(--limit-edge);
  overflow: auto;
  ${upright} {
    grid-template: repeat(4, max-content) / minmax(0, 1fr) 14.5rem;
    grid-template-areas: 'head head' 'left right' 'mid mid';
  }
  ${phone} {
    grid-template: repeat(4, max-content) / minmax(0, 1fr);
    grid-template-areas: 'head' 'left' 'mid' 'right';
  }
`;

export const DrillHead = styled(PageHead)`
  padding: 8px 16px;
  background: var(--band1);
  border-color: var(--limit-edge);
  flex-wrap: wrap;
  gap: 4px 18px;
  h1,
  p {
    color: var(--limit-ink);
  }
  > p:last-child {
    margin-left: auto;
    font-weight: 650;
  }
`;

/** The cockpit, and below it the pictures of its engine. */
export const DrillMid = styled.section`
  grid-area: mid;
  padding: 10px 12px;
  display: grid;
  grid-template-rows: minmax(0, max-content) minmax(17.25rem, 1fr);
  gap: 8px;
  min-height: 0;
  min-width: 0;
  ${upright} {
    grid-template-rows: max-content minmax(20rem, max-content);
  }
`;

export const Side = styled.section`
  padding: 12px 14px;
  background: var(--sheet);
  display: flex;
  flex-direction: column;
  gap: 8px;
  min-height: 0;
  overflow: auto;
  > button {
    justify-content: space-between;
    &[aria-pressed='true'] {
      background: var(--usual1);
      border-color: var(--track);
    }
  }
`;
