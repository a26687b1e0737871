import type { Limit, PistonStart } from '@rouse/core/aircraft';
import { useRef } from 'react';
import { ChartTitle, Sheet } from '../frame.tsx';
import { LimitBands } from '../limit-bands.tsx';
import { linearScale } from '../scale.ts';
import { TickFigures } from '../tick-figures.tsx';
import { useFrameLoop } from '../../platform/frame-loop.ts';
import { tokenColour } from '../../platform/light.ts';
import { prepareCanvas, useSize } from '../../platform/size.ts';
import { ring } from '../../run/frame-ring.ts';
import type { LiveStartProps } from './start-props.ts';
import { drawNow, strokeTrack } from './track.ts';

const MARGIN = { left: 46, right: 62, top: 18, bottom: 30 };
/** seconds from the starter that the chart begins with, and grows by */
const SHOWN_S = 40;

/** Engine speed from the starter to a stable idle, with the speed that it must not pass in a start. */
export function LiveSpeed({ followed: { type }, spec, start }: LiveStartProps<PistonStart>) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const iSpeed = type.channels.findIndex((c) => c.id === spec.channels.speed);
  const from_s = start?.starterAt_s ?? null;
  const elapsed_s = from_s === null ? 0 : ring.lastTime() - from_s;
  const shown_s = SHOWN_S * Math.max(1, Math.ceil((elapsed_s + 4) / SHOWN_S));
  const bottom = size.height - MARGIN.bottom;
  const right = size.width - MARGIN.right;
  const x = linearScale([0, shown_s], [MARGIN.left, right]);
  const y = linearScale([0, spec.overspeed_pct + 16], [bottom, MARGIN.top]);
  const [low, high] = spec.idle_pct;
  useFrameLoop((now_ms) => {
    const context = prepareCanvas(canvas.current, size);
    if (!context || from_s === null || ring.length === 0) return;
    context.strokeStyle = tokenColour('--ink');
    context.lineWidth = 2.6;
    context.lineJoin = 'round';
    strokeTrack(context, iSpeed, from_s, (t_s) => x(Math.min(t_s - from_s, shown_s)), y);
    const v = ring.last(iSpeed);
    if (Number.isNaN(v) || !ring.fresh(now_ms)) return;
    const at = x(Math.min(ring.lastTime() - from_s, shown_s));
    drawNow(context, at, y(v));
    context.fillStyle = tokenColour('--ink');
    context.font = "700 12px 'Atkinson Mono'";
    context.fillText(`${v.toFixed(0)} %`, at + 12, y(v) + 4);
  });

  return (
    <>
      <ChartTitle title={`${spec.label} start`} about="engine speed in % over seconds from the starter" />
      <Sheet ref={sheet}>
        {size.width > 0 && (
          <svg role="img" aria-label="Engine speed over the seconds since the starter, with idle and overspeed">
            <rect
              x={MARGIN.left}
              y={y(high)}
              width={right - MARGIN.left}
              height={y(low) - y(high)}
              fill="var(--usual2)"
            />
            <text x={right - 8} y={y(high) - 6} textAnchor="end" fill="var(--soft)">
              idle {low} to {high} %
            </text>
            <LimitBands
              limit={runawayLimit(spec)}
              unit="%"
              y={y}
              left={MARGIN.left}
              right={right}
              end={MARGIN.top}
              words
            />
            <g stroke="var(--grid)">
              {y.ticks(5).map((v) => (
                <line key={v} x1={MARGIN.left} x2={right} y1={y(v)} y2={y(v)} />
              ))}
            </g>
            <g stroke="var(--limit-edge)" strokeDasharray="7 4">
              <line x1={x(spec.firesWithin_s)} x2={x(spec.firesWithin_s)} y1={y(0)} y2={y(spec.firesAbove_pct)} />
            </g>
            <text x={x(spec.firesWithin_s) + 6} y={y(spec.firesAbove_pct) + 12} fill="var(--limit-ink)">
              fires by {Math.floor(spec.firesWithin_s)} s
            </text>
            <TickFigures x={x} y={y} left={MARGIN.left} bottom={bottom} />
          </svg>
        )}
        <canvas ref={canvas} aria-hidden />
      </Sheet>
    </>
  );
}

/** The speed that a start must not pass, as a limit to draw. */
const runawayLimit = (spec: PistonStart): Limit => ({
  id: 'overspeed',
  channel: spec.channels.speed,
  phases: ['start'],
  hysteresis: 0,
  bands: [
    {
      id: 'never',
      above: spec.overspeed_pct,
      forSeconds: 0,
      counting: 'continuous',
      severity: 'warning',
      action: 'Throttle closed.',
    },
  ],
});
