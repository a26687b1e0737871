import type { Scale } from './scale.ts';

interface TickFiguresProps {
  x: Scale;
  y: Scale;
  left: number;
  bottom: number;
}

/** The figures along the two axes of a drawing. */
export function TickFigures({ x, y, left, bottom }: TickFiguresProps) {
  return (
    <g fill="var(--soft)">
      {y.ticks(5).map((v) => (
        <text key={v} x={left - 8} y={y(v) + 4} textAnchor="end">
          {v}
        </text>
      ))}
      {x.ticks(4).map((v) => (
        <text key={v} x={x(v)} y={bottom + 18} textAnchor="middle">
          {v}
        </text>
      ))}
    </g>
  );
}
