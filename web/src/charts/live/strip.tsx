import { bandEdge, type Channel, type Limit, type StartWatch, type WatchedType } from '@rouse/core/aircraft';
import { useRef } from 'react';
import { ChartTitle, Sheet } from '../frame.tsx';
import { STRIP_MARGIN, StripChart, stripScales } from '../strip-chart.tsx';
import { useFrameLoop } from '../../platform/frame-loop.ts';
import { tokenColour } from '../../platform/light.ts';
import { prepareCanvas, useSize } from '../../platform/size.ts';
import { ring } from '../../run/frame-ring.ts';
import type { LiveStartProps } from './start-props.ts';
import { strokeTrack } from './track.ts';

const SECONDS = 30;

interface Line {
  channel: Channel;
  domain: [number, number];
}

/** What the strip shows beside the plane: volts and speed of a turbine, oil and volts of a piston engine. */
function linesOf(
  type: WatchedType,
  spec: StartWatch,
): { main: Line; second: Line; limit: Limit | null; about: string } {
  const channel = (id: string): Channel => type.channels.find((c) => c.id === id)!;
  const limitOf = (id: string): Limit | null =>
    type.limits.find((l) => l.channel === id && l.phases.includes('start')) ?? null;
  const { volts, speed } = spec.channels;
  if (spec.kind === 'piston') {
    const { oilPressure } = spec.channels;
    return {
      main: { channel: channel(oilPressure), domain: [0, 8] },
      second: { channel: channel(volts), domain: [4, 16] },
      limit: limitOf(oilPressure),
      about: `oil pressure and bus volts; ${spec.oilFirst_bar} bar within ${spec.oilFirstWithin_s} s of firing`,
    };
  }
  const limit = limitOf(volts);
  const stop_V = limit ? bandEdge(limit.bands[0]!) : 13;
  return {
    main: { channel: channel(volts), domain: [stop_V - 3, 30] },
    second: { channel: channel(speed), domain: [-5, 110] },
    limit,
    about: `bus volts and gas producer; stop below ${stop_V} V`,
  };
}

/** The two readings that matter beside the plane, over the last half minute. */
export function LiveStrip({ followed: { type }, spec }: LiveStartProps<StartWatch>) {
  const [sheet, size] = useSize<HTMLDivElement>();
  const canvas = useRef<HTMLCanvasElement>(null);
  const { main, second, limit, about } = linesOf(type, spec);
  const scales = stripScales(size, SECONDS, main.domain, second.domain);
  const iMain = type.channels.indexOf(main.channel);
  const iSecond = type.channels.indexOf(second.channel);

  useFrameLoop((now_ms) => {
    const element = canvas.current;
    const context = prepareCanvas(element, size);
    if (!context || !element) return;
    const now_s = ring.lastTime();
    const fresh = ring.fresh(now_ms);
    const line = (channel: number, y: (v: number) => number, colour: string, text: string): void => {
      context.strokeStyle = colour;
      context.lineWidth = 2.2;
      strokeTrack(context, channel, now_s - SECONDS, (t_s) => scales.x(t_s - now_s), y);
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
      line(iSecond, scales.y2, tokenColour('--track'), figureOf(second.channel, ring.last(iSecond)));
      line(iMain, scales.y, tokenColour('--ink'), figureOf(main.channel, ring.last(iMain)));
    }
    context.restore();
    // what has been painted, in the unit's own time: benchmarks and tests read it
    element.dataset['paintedUnit'] = String(ring.unit_s);
  });

  return (
    <>
      <ChartTitle title="Last 30 seconds" about={about} />
      <Sheet ref={sheet}>
        <StripChart
          size={size}
          scales={scales}
          limit={limit}
          unit={main.channel.unit}
          label={`${main.channel.label} and ${second.channel.label.toLowerCase()} over the last 30 seconds; the figures stand at the right under room to the limits`}
        />
        <canvas ref={canvas} aria-hidden data-strip />
      </Sheet>
    </>
  );
}

const figureOf = (channel: Channel, value: number): string =>
  `${value.toFixed(channel.unit === '%' ? 0 : 1)} ${channel.unit}`;
