import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import styled from 'styled-components';

const Drawing = styled.svg`
  touch-action: none;
  polygon {
    fill: var(--usual2);
    stroke: var(--limit-edge);
    stroke-width: 1.5;
  }
  circle {
    fill: var(--now);
    stroke: var(--sheet);
    stroke-width: 2;
    cursor: grab;
  }
  circle:focus-visible {
    outline: none;
    stroke: var(--ink);
    stroke-width: 3.5;
  }
`;

const W = 270;
const H = 220;
const PAD = { left: 44, right: 14, top: 14, bottom: 26 };

export type Corner = readonly [number, number];

interface CornersProps {
  label: string;
  corners: readonly Corner[];
  /** unit and step of each axis */
  x: { unit: string; step: number };
  y: { unit: string; step: number };
  locked: boolean;
  move: (at: number, to: Corner) => void;
}

interface Scale {
  left: number;
  right: number;
  low: number;
  high: number;
}

/** A closed line whose corners are dragged, or moved with the arrow keys, in whole steps. */
export function Corners({ label, corners, x, y, locked, move }: CornersProps) {
  const svg = useRef<SVGSVGElement>(null);
  /** the corner that is dragged, with the scale at its beginning: under a finger nothing else moves */
  const [dragged, setDragged] = useState<{ at: number; scale: Scale } | null>(null);
  const scale = dragged?.scale ?? scaleOf(corners);
  const px = (v: number): number =>
    PAD.left + ((v - scale.left) / (scale.right - scale.left)) * (W - PAD.left - PAD.right);
  const py = (v: number): number => H - PAD.bottom - ((v - scale.low) / (scale.high - scale.low)) * (H - PAD.top - PAD.bottom); // oxfmt-ignore
  const put = (at: number, to: Corner): void => move(at, [toStep(to[0], x.step), toStep(to[1], y.step)]);
  const drag = (e: PointerEvent): void => {
    if (!dragged || !svg.current) return;
    const box = svg.current.getBoundingClientRect();
    const sx = ((e.clientX - box.left) / box.width) * W;
    const sy = ((e.clientY - box.top) / box.height) * H;
    put(dragged.at, [
      scale.left + ((sx - PAD.left) / (W - PAD.left - PAD.right)) * (scale.right - scale.left),
      scale.low + ((H - PAD.bottom - sy) / (H - PAD.top - PAD.bottom)) * (scale.high - scale.low),
    ]);
  };
  const key = (e: KeyboardEvent, at: number): void => {
    const by = STEPS[e.key];
    const [cx, cy] = corners[at]!;
    if (!by || locked) return;
    e.preventDefault();
    const times = e.shiftKey ? 10 : 1;
    put(at, [cx + by[0] * x.step * times, cy + by[1] * y.step * times]);
  };
  return (
    <Drawing
      ref={svg}
      viewBox={`0 0 ${W} ${H}`}
      role="group"
      aria-label={label}
      onPointerMove={drag}
      onPointerUp={() => setDragged(null)}
      onPointerCancel={() => setDragged(null)}
    >
      <polygon points={corners.map(([a, b]) => `${px(a)},${py(b)}`).join(' ')} />
      <text x={4} y={py(scale.high) + 4}>
        {scale.high} {y.unit}
      </text>
      <text x={4} y={py(scale.low)}>
        {scale.low} {y.unit}
      </text>
      <text x={PAD.left} y={H - 8}>
        {scale.left.toFixed(2)} {x.unit}
      </text>
      <text x={W - 6} y={H - 8} textAnchor="end">
        {scale.right.toFixed(2)} {x.unit}
      </text>
      {corners.map(([cx, cy], at) => (
        <circle
          key={at}
          r={7}
          cx={px(cx)}
          cy={py(cy)}
          role="button"
          tabIndex={0}
          aria-disabled={locked || undefined}
          aria-label={`Corner ${at + 1}: ${cx} ${x.unit}, ${cy} ${y.unit}. Arrow keys move it.`}
          onKeyDown={(e) => key(e, at)}
          onPointerDown={(e) => {
            if (locked) return;
            e.currentTarget.setPointerCapture(e.pointerId);
            setDragged({ at, scale: scaleOf(corners) });
          }}
        />
      ))}
    </Drawing>
  );
}

const STEPS: Readonly<Record<string, Corner>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

const toStep = (v: number, step: number): number => Number((Math.round(v / step) * step).toFixed(4));

function scaleOf(corners: readonly Corner[]): Scale {
  const xs = corners.map((c) => c[0]);
  const ys = corners.map((c) => c[1]);
  const wide = Math.max(...xs) - Math.min(...xs) || 1;
  const tall = Math.max(...ys) - Math.min(...ys) || 1;
  return {
    left: Math.min(...xs) - wide * 0.1,
    right: Math.max(...xs) + wide * 0.1,
    low: Math.round(Math.min(...ys) - tall * 0.1),
    high: Math.round(Math.max(...ys) + tall * 0.1),
  };
}
