import { useRef } from 'react';
import type { TurbineStart } from '@rouse/core/aircraft';
import { ChartTitle, Sheet } from '../frame.tsx';
import { PhasePlane, planeOf } from '../phase-plane.tsx';
import { useFrameLoop } from '../../platform/frame-loop.ts';
import { tokenColour } from '../../platform/light.ts';
import { prepareCanvas, useSize } from '../../platform/size.ts';
import { ring } from '../../run/frame-ring.ts';
import type { LiveStartProps } from './start-props.ts';

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
    const now = tokenColour('--now');
    if (peak && start) {
      const px = x(n + start.speedRate_pct_s * peak.in_s);
      const py = y(peak.at_C);
      context.strokeStyle = now;
      context.fillStyle = now;
      context.lineWidth = 1.8;
      context.setLineDash([5, 5]);
      context.beginPath();
      context.moveTo(x(n), y(t));
      context.quadraticCurveTo(x(n) + (px - x(n)) * 0.5, py, px, py);
      context.stroke();
      context.setLineDash([]);
      context.beginPath();
      context.arc(px, py, 3.4, 0, 7);
      context.fill();
      context.font = "700 12px 'Atkinson Mono'";
      context.fillText(`peak near ${Math.round(peak.at_C / 5) * 5} °C`, Math.min(px + 10, size.width - 150), py - 8);
    }
    context.fillStyle = tokenColour('--deep');
    context.strokeStyle = now;
    context.lineWidth = 3.5;
    context.beginPath();
    context.arc(x(n), y(t), 7, 0, 7);
    context.fill();
    context.stroke();
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
