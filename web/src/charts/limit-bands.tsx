import { bandEdge, bandWords, type Limit } from '@rouse/core/aircraft';
import { useId } from 'react';
import { Hatch } from './hatch.tsx';
import type { Scale } from './scale.ts';

interface LimitBandsProps {
  limit: Limit;
  unit: string;
  y: Scale;
  left: number;
  right: number;
  /** pixel of the end of the chart beyond the limit */
  end: number;
  words: boolean;
}

/** Limits: plain with a broken edge where time is allowed, hatched with a solid edge where none is. */
export function LimitBands({ limit, unit, y, left, right, end, words }: LimitBandsProps) {
  const hatch = useId();
  return (
    <g>
      <Hatch id={hatch} />
      {limit.bands.map((band, i) => {
        const next = limit.bands[i + 1];
        const from = y(bandEdge(band));
        const to = next ? y(bandEdge(next)) : end;
        const never = band.forSeconds === 0 || (band.severity === 'warning' && !next);
        const top = Math.min(from, to);
        const height = Math.abs(to - from);
        return (
          <g key={band.id}>
            <rect
              x={left}
              y={top}
              width={right - left}
              height={height}
              fill={never ? `url(#${hatch})` : i === 0 ? 'var(--band1)' : 'var(--band2)'}
            />
            <line
              x1={left}
              x2={right}
              y1={from}
              y2={from}
              stroke="var(--limit-edge)"
              strokeWidth={never ? 2 : 1.4}
              strokeDasharray={never ? undefined : i === 0 ? '2 4' : '7 4'}
            />
            {words && height >= 13 && (
              <text
                x={left + 8}
                y={(from + to) / 2 + 4}
                fill="var(--limit-ink)"
                fontWeight={never ? 700 : 400}
                stroke={never ? 'var(--limit-fill)' : 'none'}
                strokeWidth="3"
                paintOrder="stroke"
              >
                {bandWords(band, unit)}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
}
