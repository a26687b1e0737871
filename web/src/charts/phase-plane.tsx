import { ticks } from 'd3-array';
import { bandEdge, type Limit } from '@rouse/core/aircraft';
import type { Corridor } from '@rouse/core/watch';
import type { ReactNode } from 'react';
import type { Size } from '../platform/size.ts';
import { LimitBands } from './limit-bands.tsx';
import { bandPath } from './band-path.ts';
import { linearScale, type Scale } from './scale.ts';

const MARGIN = { left: 46, right: 18, top: 18, bottom: 30 };
const WATERS = ['var(--usual1)', 'var(--usual2)', 'var(--usual3)'];

export interface Plane {
  x: Scale;
  y: Scale;
}

/** Scales of temperature over speed: the limit at the top, idle and a little more at the right. */
export function planeOf(size: Size, limit: Limit, idle_pct: number): Plane {
  const never = bandEdge(limit.bands[limit.bands.length - 1]!);
  return {
    x: linearScale([0, Math.ceil(idle_pct / 5 + 0.4) * 5], [MARGIN.left, size.width - MARGIN.right]),
    y: linearScale([0, never + 90], [size.height - MARGIN.bottom, MARGIN.top]),
  };
}

interface PhasePlaneProps {
  size: Size;
  plane: Plane;
  limit: Limit;
  corridor: Corridor | null;
  label: string;
  children?: ReactNode;
}

/** Temperature over speed with its limit, and this tail's usual range. */
export function PhasePlane({ size, plane: { x, y }, limit, corridor, label, children }: PhasePlaneProps) {
  if (size.width === 0) return null;
  const bottom = size.height - MARGIN.bottom;
  const right = size.width - MARGIN.right;
  const bins = corridor ? corridor.contours[0]!.low_C.map((_, i) => i) : [];
  const edge = bandEdge(limit.bands[0]!);
  return (
    <svg role="img" aria-label={label}>
      <g stroke="var(--grid)">
        {x.ticks(7).map((v) => (
          <line key={v} x1={x(v)} x2={x(v)} y1={MARGIN.top} y2={bottom} />
        ))}
        {ticks(0, edge, 4).map((v) => (
          <line key={v} x1={MARGIN.left} x2={right} y1={y(v)} y2={y(v)} />
        ))}
      </g>
      {corridor?.contours.map((contour, i) => (
        <path key={contour.share} d={bandPath(bins, contour.low_C, contour.high_C, x, y)} fill={WATERS[i]} />
      ))}
      <LimitBands limit={limit} unit="°C" y={y} left={MARGIN.left} right={right} end={MARGIN.top} words />
      <g fill="var(--soft)">
        {x.ticks(7).map((v) => (
          <text key={v} x={x(v)} y={size.height - 10} textAnchor="middle">
            {v}
          </text>
        ))}
        {ticks(0, edge, 4).map((v) => (
          <text key={v} x={MARGIN.left - 8} y={y(v) + 4} textAnchor="end">
            {v}
          </text>
        ))}
      </g>
      {children}
    </svg>
  );
}
