import type { ReactNode } from 'react';
import styled from 'styled-components';
import { mono } from '../app/theme.ts';

/** The sheet that a chart is drawn on: SVG ground, canvas above it for what moves. */
export const Sheet = styled.div`
  position: relative;
  background: var(--deep);
  border: 1px solid var(--line);
  border-radius: 10px;
  overflow: hidden;
  min-height: 0;
  svg,
  canvas {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
  }
  text {
    ${mono}
    font-size: 11.5px;
  }
`;

const Title = styled.div`
  display: flex;
  align-items: baseline;
  flex-wrap: wrap;
  gap: 2px 12px;
  h2 {
    font-size: 0.96875rem;
    font-weight: 680;
  }
  > span {
    font-size: 0.8125rem;
    color: var(--soft);
    min-width: 0;
    flex: 0 1 auto;
  }
  > :last-child:not(span, h2) {
    margin-left: auto;
  }
`;

export function ChartTitle({ title, about, children }: { title: string; about?: string; children?: ReactNode }) {
  return (
    <Title>
      <h2>{title}</h2>
      {about && <span>{about}</span>}
      {children}
    </Title>
  );
}
