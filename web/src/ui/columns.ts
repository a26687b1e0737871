import styled from 'styled-components';
import { phone, upright } from '../app/theme.ts';

/**
 * A page of three columns between a head and a foot. A view gives the widths of its sides (--left, --right) and the
 * height of its foot (--foot). Upright the sides stand side by side over the middle, on a phone all stand in one column,
 * unless the view says otherwise.
 */
export const Columns = styled.main`
  --left: 22rem;
  --right: 18.25rem;
  --head: 3.75rem;
  --foot: 3.25rem;
  display: grid;
  grid-template: minmax(var(--head), max-content) minmax(0, 1fr) var(--foot) / var(--left) minmax(0, 1fr) var(--right);
  grid-template-areas: 'head head head' 'left mid right' 'foot foot foot';
  height: 100%;
  min-width: 0;
  min-height: 0;
  ${upright} {
    grid-template: repeat(4, max-content) / minmax(0, 1fr) var(--right);
    grid-template-areas: 'head head' 'left right' 'mid mid' 'foot foot';
    height: auto;
    max-height: 100%;
    overflow: auto;
  }
  ${phone} {
    grid-template: repeat(5, max-content) / minmax(0, 1fr);
    grid-template-areas: 'head' 'left' 'mid' 'right' 'foot';
  }
`;

/** Whose page it is, and what stands above all of it. */
export const PageHead = styled.header`
  grid-area: head;
  display: flex;
  align-items: center;
  gap: 22px;
  padding: 0 20px;
  border-bottom: 1px solid var(--line);
  background: var(--sheet);
  h1 {
    font-weight: 720;
    font-size: 1.25rem;
    line-height: 1.15;
  }
  p {
    font-size: 0.8125rem;
    color: var(--soft);
  }
  ${upright} {
    padding: 8px 16px;
  }
`;
