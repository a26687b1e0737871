import { BarChart, ScatterChart } from 'echarts/charts';
import { PolarComponent } from 'echarts/components';
import { type ReactNode, useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { SlimButton } from '../ui/button.tsx';
import { DataTable } from '../ui/data-table.tsx';
import { tokenColour, useLight } from '../platform/light.ts';
import { ChartTitle } from './frame.tsx';
import { echarts } from './echart.ts';

echarts.use([BarChart, ScatterChart, PolarComponent]);

const Box = styled.section`
  display: grid;
  grid-template: auto minmax(0, 1fr) / minmax(0, 1fr);
  gap: 6px;
  min-height: 0;
  min-width: 0;
`;

const Canvas = styled.div`
  background: var(--deep);
  border: 1px solid var(--line);
  border-radius: 10px;
  overflow: hidden;
  min-height: 7.5rem;
  position: relative;
  > div {
    position: absolute;
    inset: 0;
  }
`;

const Nothing = styled.p`
  display: grid;
  place-content: center;
  text-align: center;
  height: 100%;
  padding: 16px;
  color: var(--soft);
  font-size: 0.875rem;
`;

/** The figures behind a drawing. */
interface Figures {
  head: readonly string[];
  rows: readonly (readonly string[])[];
}

/** Colours of the present light, for charts. */
export interface Ink {
  colour: (token: string) => string;
  /** the hatching of what is out of limits, as a fill */
  limitFill: { image: HTMLCanvasElement; repeat: 'repeat' };
  font: string;
}

function inkNow(): Ink {
  const tile = document.createElement('canvas');
  tile.width = 8;
  tile.height = 8;
  const context = tile.getContext('2d')!;
  context.fillStyle = tokenColour('--limit-fill');
  context.fillRect(0, 0, 8, 8);
  context.strokeStyle = tokenColour('--limit-hatch');
  context.lineWidth = 2;
  context.beginPath();
  for (const from of [-8, 0, 8]) {
    context.moveTo(from, 8);
    context.lineTo(from + 8, 0);
  }
  context.stroke();
  return { colour: tokenColour, limitFill: { image: tile, repeat: 'repeat' }, font: "'Atkinson Mono', monospace" };
}

interface ChartProps {
  title: string;
  about?: string;
  /** said in place of the drawing to who cannot see it */
  label: string;
  /** null draws nothing and shows `missing` */
  draw: ((ink: Ink) => object) | null;
  missing: ReactNode;
  figures: Figures;
}

/** A drawing with its figures one key away. It is drawn again when its data or the light changes. */
export function Chart({ title, about, label, draw, missing, figures }: ChartProps) {
  const place = useRef<HTMLDivElement>(null);
  const [table, setTable] = useState(false);
  const light = useLight();
  const drawn = draw !== null;
  useEffect(() => {
    const element = place.current;
    if (!element || !draw) return;
    const chart = echarts.getInstanceByDom(element) ?? echarts.init(element);
    chart.setOption({ animation: false, ...draw(inkNow()) }, true);
    const observer = new ResizeObserver(() => chart.resize());
    observer.observe(element);
    return () => observer.disconnect();
  }, [draw, light, table]);
  useEffect(() => {
    const element = place.current;
    return () => {
      if (element) echarts.getInstanceByDom(element)?.dispose();
    };
  }, [table, drawn]);
  return (
    <Box>
      <ChartTitle title={title} {...(about === undefined ? {} : { about })}>
        {draw && (
          <SlimButton onPress={() => setTable((v) => !v)} aria-label={`${title}: ${table ? 'drawing' : 'figures'}`}>
            {table ? 'Drawing' : 'Figures'}
          </SlimButton>
        )}
      </ChartTitle>
      {!draw ? (
        <Canvas>
          <Nothing>{missing}</Nothing>
        </Canvas>
      ) : table ? (
        <DataTable caption={label} {...figures} />
      ) : (
        <Canvas>
          <div ref={place} role="img" aria-label={label} />
        </Canvas>
      )}
    </Box>
  );
}
