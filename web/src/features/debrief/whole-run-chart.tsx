import type { Moment } from '@rouse/core/debrief';
import type { LegSpan } from '@rouse/core/procedure';
import type { Trace } from '@rouse/core/trace';
import { useEffect, useRef } from 'react';
import { echarts } from '../../charts/echart.ts';
import { Sheet } from '../../charts/frame.tsx';
import { useLight } from '../../platform/light.ts';
import { type Line, wholeRunDrawing } from './whole-run-drawing.ts';

interface WholeRunChartProps {
  trace: Trace;
  legs: LegSpan[];
  lines: readonly Line[];
  at_s: number | null;
  moments: readonly Moment[];
}

/** a moment is looked at with so much before and after it, s */
const AROUND_S = 40;

/** The lines of the run over its legs, to zoom into. */
export function WholeRunChart({ trace, legs, lines, at_s, moments }: WholeRunChartProps) {
  const box = useRef<HTMLDivElement>(null);
  const light = useLight();
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const chart = echarts.init(element, undefined, { renderer: 'canvas' });
    const option = () => wholeRunDrawing({ trace, legs, lines, moments, width_px: element.clientWidth });
    const observer = new ResizeObserver(() => {
      chart.resize();
      chart.setOption(option());
    });
    observer.observe(element);
    return () => {
      observer.disconnect();
      chart.dispose();
    };
  }, [trace, legs, lines, moments, light]);
  useEffect(() => {
    const chart = box.current && echarts.getInstanceByDom(box.current);
    const end_s = trace.t_s[trace.t_s.length - 1] ?? 0;
    const [startValue, endValue] =
      at_s === null ? [0, end_s] : [Math.max(0, at_s - AROUND_S), Math.min(end_s, at_s + AROUND_S)];
    chart?.dispatchAction({ type: 'dataZoom', startValue, endValue });
  }, [at_s, trace]);
  return (
    <Sheet>
      <div
        ref={box}
        style={{ position: 'absolute', inset: 0 }}
        role="img"
        aria-label="Rotor, engines and bus volts over the whole run"
      />
    </Sheet>
  );
}
