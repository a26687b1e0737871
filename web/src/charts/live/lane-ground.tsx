import { type Scale } from '../scale.ts';
import type { Lane } from './lane.ts';

/** The ground of one lane: its window to keep, its limit, its unit. */
export function LaneGround({ lane, y, left, right }: { lane: Lane; y: Scale; left: number; right: number }) {
  const [low, high] = y.domain() as [number, number];
  const clamp = (v: number): number => Math.min(high, Math.max(low, v));
  return (
    <g>
      {lane.windows.map(([from, to]) => (
        <rect
          key={from}
          x={left}
          width={right - left}
          y={y(clamp(to))}
          height={Math.max(0, y(clamp(from)) - y(clamp(to)))}
          fill="var(--usual2)"
        />
      ))}
      <g stroke="var(--grid)">
        {y.ticks(3).map((v) => (
          <line key={v} x1={left} x2={right} y1={y(v)} y2={y(v)} />
        ))}
      </g>
      {lane.edges.map(({ at, words }) => (
        <g key={words}>
          <line x1={left} x2={right} y1={y(at)} y2={y(at)} stroke="var(--limit-edge)" strokeWidth={2} />
          <text x={left + 6} y={y(at) - 5} fill="var(--limit-ink)">
            {words} {at} {lane.unit}
          </text>
        </g>
      ))}
      <g fill="var(--soft)">
        {y.ticks(3).map((v) => (
          <text key={v} x={left - 8} y={y(v) + 4} textAnchor="end">
            {v}
          </text>
        ))}
        <text x={right - 4} y={y(high) + 11} textAnchor="end">
          {lane.unit}
        </text>
      </g>
    </g>
  );
}
