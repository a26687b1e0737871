import type { Limit } from '@rouse/core/aircraft';
import type { ReactNode } from 'react';
import type { Size } from '../platform/size.ts';
import { LimitBands } from './limit-bands.tsx';
import { linearScale, type Scale } from './scale.ts';

export const STRIP_MARGIN = { left: 40, right: 72, top: 12, bottom: 10 };

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
  const bottom = size.height - STRIP_MARGIN.bottom;
  return {
    x: linearScale([-seconds, 0], [STRIP_MARGIN.left, size.width - STRIP_MARGIN.right]),
    y: linearScale(domain, [bottom, STRIP_MARGIN.top]),
    y2: linearScale(domain2, [bottom, STRIP_MARGIN.top]),
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

/** Readings over the last seconds, with the same limits as everywhere. */
export function StripChart({ size, scales: { y }, limit, unit, label, children }: StripChartProps) {
  if (size.width === 0) return null;
  const right = size.width - STRIP_MARGIN.right;
  return (
    <svg role="img" aria-label={label}>
      {limit && (
        <LimitBands
          limit={limit}
          unit={unit}
          y={y}
          left={STRIP_MARGIN.left}
          right={right}
          end={'above' in limit.bands[0]! ? STRIP_MARGIN.top : size.height - STRIP_MARGIN.bottom}
          words={false}
        />
      )}
      <g stroke="var(--grid)">
        {y.ticks(4).map((v) => (
          <line key={v} x1={STRIP_MARGIN.left} x2={right} y1={y(v)} y2={y(v)} />
        ))}
      </g>
      <g fill="var(--soft)">
        {y.ticks(4).map((v) => (
          <text key={v} x={STRIP_MARGIN.left - 8} y={y(v) + 4} textAnchor="end">
            {v}
          </text>
        ))}
      </g>
      {children}
    </svg>
  );
}
