import { type KeyboardEvent, type PointerEvent, useMemo, useRef, useState } from 'react';
import styled from 'styled-components';
import { phone } from '../../app/theme.ts';
import type { SiteMessage } from '@rouse/core/contract';

type Pad = SiteMessage['pads'][number];

const W = 640;
const H = 300;
const MARGIN = 46;
/** a lone pad still has some ground around it, m */
const LEAST_ACROSS_M = 60;

const Drawing = styled.svg`
  width: 100%;
  max-width: ${W}px;
  background: var(--deep);
  border: 1px solid var(--line);
  border-radius: 10px;
  touch-action: none;
  line {
    stroke: var(--grid);
    stroke-width: 1.5;
  }
  circle {
    fill: var(--sheet);
    stroke: var(--track);
    stroke-width: 2;
  }
  g[tabindex] {
    cursor: grab;
  }
  g[tabindex]:focus-visible {
    outline: none;
  }
  g[tabindex]:focus-visible circle {
    stroke: var(--now);
    stroke-width: 4;
  }
  text {
    font-size: 13px;
    fill: var(--ink);
  }
  text.far {
    fill: var(--soft);
    font-size: 12px;
  }
  /* the drawing is half as large, and its words are not */
  ${phone} {
    text {
      font-size: 24px;
    }
    text.far {
      font-size: 22px;
    }
    tspan {
      display: none;
    }
  }
`;

const STEP_M: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};

/** The pads of a site from above, north up, with the distances between them. Pads are dragged, or moved by arrow keys metre by metre. */
export function SitePlan({ pads, onMove }: { pads: Pad[]; onMove?: (pad: string, x_m: number, y_m: number) => void }) {
  const [moved, setMoved] = useState<{ pad: string; x_m: number; y_m: number } | null>(null);
  const svg = useRef<SVGSVGElement>(null);
  // a plan that is dragged on keeps its scale until it is let go: the pads come anew only then
  const { x, y, m_px, at } = useMemo(() => scaleOf(pads), [pads]);
  const shown = pads.map((p) => (moved?.pad === p.pad ? { ...p, ...moved } : p));
  const drag = (event: PointerEvent, pad: string): void => {
    if (!onMove || !svg.current || !(event.buttons & 1)) return;
    const box = svg.current.getBoundingClientRect();
    const [x_m, y_m] = at(((event.clientX - box.left) / box.width) * W, ((event.clientY - box.top) / box.height) * H);
    setMoved({ pad, x_m: Math.round(x_m), y_m: Math.round(y_m) });
  };
  const drop = (): void => {
    if (moved) onMove?.(moved.pad, moved.x_m, moved.y_m);
    setMoved(null);
  };
  const step = (event: KeyboardEvent, p: Pad): void => {
    const by = STEP_M[event.key];
    if (!by || !onMove) return;
    event.preventDefault();
    const metres = event.shiftKey ? 10 : 1;
    onMove(p.pad, p.x_m + by[0] * metres, p.y_m + by[1] * metres);
  };
  return (
    <Drawing ref={svg} viewBox={`0 0 ${W} ${H}`} role="group" aria-label="Plan of the site, north up">
      {pairsOf(shown).map(([a, b]) => (
        <g key={`${a.pad}/${b.pad}`}>
          <line x1={x(a.x_m)} y1={y(a.y_m)} x2={x(b.x_m)} y2={y(b.y_m)} />
          <text className="far" x={(x(a.x_m) + x(b.x_m)) / 2 + 4} y={(y(a.y_m) + y(b.y_m)) / 2 - 4}>
            {Math.hypot(a.x_m - b.x_m, a.y_m - b.y_m).toFixed(0)} m
          </text>
        </g>
      ))}
      {shown.map((p) => (
        <g
          key={p.pad}
          {...(onMove && { tabIndex: 0, role: 'button' })}
          aria-label={`${nameOf(p)}, ${p.x_m} m east, ${p.y_m} m north`}
          data-pad={p.pad}
          onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
          onPointerMove={(e) => drag(e, p.pad)}
          onPointerUp={drop}
          onKeyDown={(e) => step(e, p)}
        >
          <circle cx={x(p.x_m)} cy={y(p.y_m)} r={Math.max(11, 7 * m_px)} />
          <text x={x(p.x_m)} y={y(p.y_m) + Math.max(11, 7 * m_px) + 15} textAnchor="middle">
            {p.pad.split(',')[0]}
            {p.tails.length > 0 && <tspan> · {p.tails.join(', ')}</tspan>}
          </text>
        </g>
      ))}
    </Drawing>
  );
}

/** As the pad is called on its own site, with what stands there. */
const nameOf = (p: Pad): string =>
  [p.pad.split(',')[0], ...(p.tails.length > 0 ? [p.tails.join(', ')] : [])].join(' · ');

interface Scale {
  x: (x_m: number) => number;
  y: (y_m: number) => number;
  /** units of the drawing a metre */
  m_px: number;
  /** back to metres */
  at: (px: number, py: number) => [number, number];
}

function scaleOf(pads: readonly Pad[]): Scale {
  const xs = pads.map((p) => p.x_m);
  const ys = pads.map((p) => p.y_m);
  const [x0, x1, y0, y1] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const m_px = Math.min(
    (W - 2 * MARGIN) / Math.max(x1 - x0, LEAST_ACROSS_M),
    (H - 2 * MARGIN) / Math.max(y1 - y0, LEAST_ACROSS_M / 2),
  );
  const [cx, cy] = [(x0 + x1) / 2, (y0 + y1) / 2];
  return {
    x: (x_m) => W / 2 + (x_m - cx) * m_px,
    y: (y_m) => H / 2 - (y_m - cy) * m_px,
    m_px,
    at: (px, py) => [cx + (px - W / 2) / m_px, cy - (py - H / 2) / m_px],
  };
}

/** Each pad with its nearest: the distances that matter, without a web of lines. */
function pairsOf(pads: readonly Pad[]): [Pad, Pad][] {
  const far = (a: Pad, b: Pad): number => Math.hypot(a.x_m - b.x_m, a.y_m - b.y_m);
  const seen = new Set<string>();
  return pads.flatMap((a): [Pad, Pad][] => {
    const [nearest] = pads.filter((b) => b !== a).toSorted((b, c) => far(a, b) - far(a, c));
    if (!nearest) return [];
    const key = [a.pad, nearest.pad].toSorted().join('/');
    if (seen.has(key)) return [];
    seen.add(key);
    return [[a, nearest]];
  });
}
