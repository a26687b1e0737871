import { useRef } from 'react';
import type { TurbineStart } from '@rouse/core/aircraft';
import { ChartTitle, Sheet } from '../frame.tsx';
import { PhasePlane, planeOf } from '../phase-plane.tsx';
import { useFrameLoop } from '../../platform/frame-loop.ts';
import { tokenColour } from '../../platform/light.ts';
import { prepareCanvas, useSize } from '../../platform/size.ts';
import { ring } from '../../run/frame-ring.ts';
import type { LiveStartProps } from './start-props.ts';
import { drawNow } from './track.ts';

/** This start as a track over its usual range, drawn from the frames when the screen paints. */
export function LiveCorridor({ followed: { type, corridors }, spec, start }: LiveStartProps<TurbineStart>) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const corridor = corridors[spec.id] ?? null;
  const limit = type.limits.find((l) => l.channel === spec.channels.temperature && l.phases.includes('start'))!;
  const plane = planeOf(size, limit, spec.idle_pct[1]);
  const iNg = type.channels.findIndex((c) => c.id === spec.channels.speed);
  const iTot = type.channels.findIndex((c) => c.id === spec.channels.temperature);
  const from_s = start?.starterAt_s ?? null;
  const peak = start?.peak ?? null;

  useFrameLoop((now_ms) => {
    const context = prepareCanvas(canvas.current, size);
    if (!context || from_s === null || ring.length === 0) return;
    const { x, y } = plane;
    const ink = tokenColour('--ink');
    context.strokeStyle = ink;
    context.lineWidth = 2.6;
    context.lineJoin = 'round';
    context.beginPath();
    let drawn = false;
    for (let i = ring.indexAt(from_s); i < ring.length; i++) {
      const n = ring.valueAt(iNg, i);
      const t = ring.valueAt(iTot, i);
      if (Number.isNaN(n) || Number.isNaN(t)) drawn = false;
      else if (drawn) context.lineTo(x(n), y(t));
      else {
        context.moveTo(x(n), y(t));
        drawn = true;
      }
    }
    context.stroke();
    const n = ring.last(iNg);
    const t = ring.last(iTot);
    if (Number.isNaN(n) || Number.isNaN(t) || !ring.fresh(now_ms)) return;
    if (peak && start) {
      const [at, height] = [x(n + start.speedRate_pct_s * peak.in_s), y(peak.at_C)];
      drawForecast(context, [x(n), y(t)], [at, height]);
      const words = `peak near ${Math.round(peak.at_C / 5) * 5} °C`;
      context.fillText(words, Math.min(at + 10, size.width - 150), height - 8);
    }
    drawNow(context, x(n), y(t));
  });

  return (
    <>
      <ChartTitle
        title={corridor ? `${spec.label} against its last ${corridor.starts} starts` : `${spec.label} start`}
        about={
          start?.doubt
            ? `no forecast: ${start.doubt.toLowerCase()}`
            : corridor
              ? 'TOT in °C over Ng in %'
              : 'too few good starts yet to show a habit'
        }
      />
      <Sheet ref={sheet}>
        <PhasePlane
          size={size}
          plane={plane}
          limit={limit}
          corridor={corridor}
          label="Turbine outlet temperature over gas producer speed, with the limits and this aircraft's earlier starts"
        />
        <canvas ref={canvas} aria-hidden />
      </Sheet>
    </>
  );
}

/** A dashed curve from where it is to where it would peak. Leaves the font for its words. */
function drawForecast(context: CanvasRenderingContext2D, from: [number, number], to: [number, number]): void {
  context.strokeStyle = tokenColour('--now');
  context.fillStyle = tokenColour('--now');
  context.lineWidth = 1.8;
  context.setLineDash([5, 5]);
  context.beginPath();
  context.moveTo(...from);
  context.quadraticCurveTo(from[0] + (to[0] - from[0]) * 0.5, to[1], ...to);
  context.stroke();
  context.setLineDash([]);
  context.beginPath();
  context.arc(...to, 3.4, 0, 7);
  context.fill();
  context.font = "700 12px 'Atkinson Mono'";
}
