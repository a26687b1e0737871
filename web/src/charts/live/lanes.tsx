import { useRef } from 'react';
import { Sheet } from '../frame.tsx';
import { linearScale, type Scale } from '../scale.ts';
import { useFrameLoop } from '../../platform/frame-loop.ts';
import { tokenColour } from '../../platform/light.ts';
import { prepareCanvas, useSize } from '../../platform/size.ts';
import { ring } from '../../run/frame-ring.ts';
import { LaneGround } from './lane-ground.tsx';
import { type Lane, useLaneDomains } from './lane.ts';
import { type Mark, placeMarks } from './mark-rows.ts';
import { strokeTrack } from './track.ts';

const MARGIN = { left: 46, right: 112, top: 10, bottom: 20 };
const GAP = 18;

interface LanesProps {
  lanes: readonly Lane[];
  /** how far they look back */
  seconds: number;
  marks?: readonly Mark[];
  label: string;
}

/** Readings over the last seconds, one lane for each unit: the window to keep, and its limit. */
export function Lanes({ lanes, seconds, marks = [], label }: LanesProps) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const domains = useLaneDomains(lanes, seconds);
  const right = size.width - MARGIN.right;
  const height = (size.height - MARGIN.top - MARGIN.bottom - GAP * (lanes.length - 1)) / lanes.length;
  const x = linearScale([-seconds, 0], [MARGIN.left, right]);
  const scales = lanes.map((_, i): Scale => {
    const top = MARGIN.top + i * (height + GAP);
    return linearScale(domains[i]!, [top + height, top]);
  });

  useFrameLoop((now_ms) => {
    const element = canvas.current;
    const context = prepareCanvas(element, size);
    if (!context || !element || ring.length === 0) return;
    const now_s = ring.lastTime();
    drawMarks(context, marks, now_s, x, MARGIN.top, size.height - MARGIN.bottom);
    for (const [i, lane] of lanes.entries()) {
      const y = scales[i]!;
      const places: number[] = [];
      for (const { channel, index, colour } of lane.lines) {
        context.strokeStyle = tokenColour(colour);
        context.lineWidth = 2.2;
        context.lineJoin = 'round';
        strokeTrack(context, index, now_s - seconds, (t_s) => x(t_s - now_s), y);
        const v = ring.last(index);
        if (Number.isNaN(v) || !ring.fresh(now_ms)) continue;
        // two figures that stand close together are written one below the other
        let place = y(v) + 4;
        while (places.some((p) => Math.abs(p - place) < 13)) place += 13;
        places.push(place);
        context.fillStyle = tokenColour(colour);
        context.font = "700 12px 'Atkinson Mono'";
        context.fillText(`${v.toFixed(channel.decimals)} ${channel.short}`, x(0) + 8, place);
      }
    }
    element.dataset['paintedUnit'] = String(ring.unit_s);
  });

  return (
    <Sheet ref={sheet}>
      {size.width > 0 && (
        <svg role="img" aria-label={label}>
          {lanes.map((lane, i) => (
            <LaneGround key={lane.unit} lane={lane} y={scales[i]!} left={MARGIN.left} right={right} />
          ))}
          <g fill="var(--soft)">
            {x.ticks(4).map((v) => (
              <text key={v} x={x(v)} y={size.height - 5} textAnchor="middle">
                {v === 0 ? 'now' : `${v} s`}
              </text>
            ))}
          </g>
        </svg>
      )}
      <canvas ref={canvas} aria-hidden data-lanes />
    </Sheet>
  );
}

function drawMarks(
  context: CanvasRenderingContext2D,
  marks: readonly Mark[],
  now_s: number,
  x: Scale,
  top: number,
  bottom: number,
): void {
  context.strokeStyle = tokenColour('--now');
  context.fillStyle = tokenColour('--now');
  context.font = "11px 'Atkinson Mono'";
  context.lineWidth = 1;
  context.setLineDash([3, 3]);
  const shown = marks.filter((m) => m.t_s - now_s >= x.domain()[0]!).map((m) => ({ ...m, t_s: m.t_s - now_s }));
  for (const { at, words, row } of placeMarks(shown, x)) {
    context.beginPath();
    context.moveTo(at, top);
    context.lineTo(at, bottom);
    context.stroke();
    if (words !== null) context.fillText(words, at + 4, bottom - 5 - 12 * row);
  }
  context.setLineDash([]);
}
