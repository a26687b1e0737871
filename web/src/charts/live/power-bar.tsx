import type { PowerNow } from '@rouse/core/procedure';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { linearScale } from '../scale.ts';
import { Sheet } from '../frame.tsx';
import { useSize } from '../../platform/size.ts';

const HEIGHT = 104;
const MARGIN = { left: 14, right: 14, top: 30, bottom: 24 };

const Box = styled(Sheet)`
  height: ${HEIGHT}px;
  text {
    ${mono}
  }
`;

/** The power of this minute on one line: usual to the continuous limit, timed to take-off, out of limits beyond; what each hover takes. */
export function PowerBar({ now, observed }: { now: PowerNow; observed: number | null }) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const { low, high, takeOff, continuous, unit } = now;
  const from = Math.min(0.7 * low.required, continuous * 0.5);
  const to = Math.max(takeOff, high.required) * 1.08;
  const x = linearScale([from, to], [MARGIN.left, Math.max(MARGIN.left + 1, size.width - MARGIN.right)]);
  const [top, bottom] = [MARGIN.top, HEIGHT - MARGIN.bottom];
  const bar = (a: number, b: number, fill: string): React.ReactNode => (
    <rect x={x(a)} y={top} width={Math.max(0, x(b) - x(a))} height={bottom - top} fill={fill} />
  );
  const hovers = [
    { words: 'in ground effect', at: low.required, dash: undefined },
    { words: 'out of it', at: high.required, dash: '5 3' },
  ];
  return (
    <Box ref={sheet}>
      {size.width > 0 && (
        <svg
          role="img"
          aria-label={`Hover takes ${low.required} ${unit} in ground effect and ${high.required} out of it; ${takeOff} ${unit} is the take-off limit, ${continuous} the continuous one`}
        >
          {bar(from, Math.min(continuous, to), 'var(--usual2)')}
          {bar(continuous, takeOff, 'var(--band2)')}
          {bar(takeOff, to, 'var(--limit-fill)')}
          <line
            x1={x(continuous)}
            x2={x(continuous)}
            y1={top}
            y2={bottom}
            stroke="var(--limit-edge)"
            strokeDasharray="5 4"
          />
          <line x1={x(takeOff)} x2={x(takeOff)} y1={top} y2={bottom} stroke="var(--limit-edge)" strokeWidth="2" />
          <text x={x(takeOff) - 4} y={bottom - 6} textAnchor="end" fill="var(--limit-ink)">
            take-off {takeOff.toFixed(1)}
          </text>
          {hovers.map(({ words, at, dash }, i) => (
            <g key={words}>
              <line
                x1={x(at)}
                x2={x(at)}
                y1={top - 6}
                y2={bottom}
                stroke="var(--now)"
                strokeWidth="2.5"
                strokeDasharray={dash}
              />
              <text x={x(at)} y={14} textAnchor={i === 0 ? 'end' : 'start'} dx={i === 0 ? 4 : -4} fill="var(--ink)">
                {words} {at.toFixed(1)}
              </text>
            </g>
          ))}
          {observed !== null && !Number.isNaN(observed) && (
            <circle cx={x(Math.max(from, Math.min(to, observed)))} cy={(top + bottom) / 2} r="6" fill="var(--ink)" />
          )}
          <g fill="var(--soft)">
            {x.ticks(6).map((v) => (
              <text key={v} x={x(v)} y={HEIGHT - 7} textAnchor="middle">
                {v}
              </text>
            ))}
          </g>
        </svg>
      )}
    </Box>
  );
}
