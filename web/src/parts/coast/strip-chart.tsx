import type { Limit } from '@rouse/core/aircraft';
import type { ReactNode } from 'react';
import type { Size } from '../../platform/size.ts';
import { Land } from './land.tsx';
import { linearScale, type Scale, ticks } from './scale.ts';

const MARGIN = { left: 40, right: 62, top: 12, bottom: 10 };

export interface StripScales {
  x: Scale;
  y: Scale;
  /** a second quantity on the same height */
  y2: Scale;
}

export function stripScales(
  size: Size,
  seconds: number,
  domain: [number, number],
  domain2: [number, number],
): StripScales {
  const bottom = size.height - MARGIN.bottom;
  return {
    x: linearScale([-seconds, 0], [MARGIN.left, size.width - MARGIN.right]),
    y: linearScale(domain, [bottom, MARGIN.top]),
    y2: linearScale(domain2, [bottom, MARGIN.top]),
  };
}

interface StripChartProps {
  size: Size;
  scales: StripScales;
  limit: Limit | null;
  unit: string;
  label: string;
  children?: ReactNode;
}

/** Readings over the last seconds, with the same coast as everywhere. */
export function StripChart({ size, scales: { y }, limit, unit, label, children }: StripChartProps) {
  if (size.width === 0) return null;
  const right = size.width - MARGIN.right;
  return (
    <svg role="img" aria-label={label}>
      {limit && (
        <Land
          limit={limit}
          unit={unit}
          y={y}
          left={MARGIN.left}
          right={right}
          end={size.height - MARGIN.bottom}
          words={false}
        />
      )}
      <g stroke="var(--grid)">
        {ticks(y.domain, 4).map((v) => (
          <line key={v} x1={MARGIN.left} x2={right} y1={y(v)} y2={y(v)} />
        ))}
      </g>
      <g fill="var(--soft)">
        {ticks(y.domain, 4).map((v) => (
          <text key={v} x={MARGIN.left - 8} y={y(v) + 4} textAnchor="end">
            {v}
          </text>
        ))}
      </g>
      {children}
    </svg>
  );
}
