import { bandEdge } from '@rouse/core/aircraft';
import { useRef } from 'react';
import { ChartTitle, Sheet } from '../../parts/coast/frame.tsx';
import { STRIP_MARGIN, StripChart, stripScales } from '../../parts/coast/strip-chart.tsx';
import { useFrameLoop } from '../../platform/frame-loop.ts';
import { tokenColour } from '../../platform/light.ts';
import { prepareCanvas, useSize } from '../../platform/size.ts';
import { ring } from '../../run/frame-ring.ts';
import type { WatchedRun } from '../../run/run-slice.ts';

const SECONDS = 30;
const EVERY_NTH_FRAME = 2;

/** Bus volts and gas producer speed over the last half minute. */
export function LiveStrip({ followed: { type } }: { followed: WatchedRun }) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const spec = type.startWatches[0];
  const limit = type.limits.find((l) => l.channel === spec.channels.volts && l.phases.includes('start'))!;
  const scales = stripScales(size, SECONDS, [bandEdge(limit.bands[0]!) - 3, 30], [-5, 110]);
  const iVolts = type.channels.findIndex((c) => c.id === spec.channels.volts);
  const iNg = type.channels.findIndex((c) => c.id === spec.channels.speed);

  useFrameLoop((now_ms) => {
    const element = canvas.current;
    const context = prepareCanvas(element, size);
    if (!context || !element) return;
    const now_s = ring.lastTime();
    const fresh = ring.fresh(now_ms);
    const line = (channel: number, y: (v: number) => number, colour: string, text: string): void => {
      context.strokeStyle = colour;
      context.lineWidth = 2.2;
      context.beginPath();
      let drawn = false;
      for (let i = ring.indexAt(now_s - SECONDS); i < ring.length; i += EVERY_NTH_FRAME) {
        const v = ring.valueAt(channel, i);
        if (Number.isNaN(v)) drawn = false;
        else if (drawn) context.lineTo(scales.x(ring.timeAt(i) - now_s), y(v));
        else {
          context.moveTo(scales.x(ring.timeAt(i) - now_s), y(v));
          drawn = true;
        }
      }
      context.stroke();
      const v = ring.last(channel);
      if (!fresh || Number.isNaN(v)) return;
      context.fillStyle = tokenColour('--deep');
      context.lineWidth = 2.5;
      context.beginPath();
      context.arc(scales.x(0), y(v), 4.5, 0, 7);
      context.fill();
      context.stroke();
      context.fillStyle = colour;
      context.font = "700 12px 'Atkinson Mono'";
      context.fillText(text, scales.x(0) + 9, y(v) + 4);
    };
    context.save();
    context.beginPath();
    context.rect(0, 0, size.width, size.height - STRIP_MARGIN.bottom + 1);
    context.clip();
    if (ring.length) {
      line(iNg, scales.y2, tokenColour('--track'), `${ring.last(iNg).toFixed(0)} %`);
      line(iVolts, scales.y, tokenColour('--ink'), `${ring.last(iVolts).toFixed(1)} V`);
    }
    context.restore();
    // what has been painted, in the unit's own time: benchmarks and tests read it
    element.dataset['paintedUnit'] = String(ring.unit_s);
  });

  return (
    <>
      <ChartTitle
        title="Last 30 seconds"
        about={`bus volts and gas producer; stop below ${bandEdge(limit.bands[0]!)} V`}
      />
      <Sheet ref={sheet}>
        <StripChart
          size={size}
          scales={scales}
          limit={limit}
          unit="V"
          label="Bus volts and gas producer speed over the last 30 seconds; the figures stand at the right under room to the limits"
        />
        <canvas ref={canvas} aria-hidden data-strip />
      </Sheet>
    </>
  );
}
