import type { WatchedType } from '@rouse/core/aircraft';
import type { ExceedanceEntry } from '@rouse/core/procedure';
import { columnOf, decodeChunk, type Trace } from '@rouse/core/trace';
import { useEffect, useMemo, useState } from 'react';
import styled from 'styled-components';
import { ChartTitle, Sheet } from '../../charts/frame.tsx';
import { LimitBands } from '../../charts/limit-bands.tsx';
import { linearScale } from '../../charts/scale.ts';
import { TickFigures } from '../../charts/tick-figures.tsx';
import { getBytes } from '../../platform/api.ts';
import { useSize } from '../../platform/size.ts';

/** so much before and after is drawn, s */
const AROUND_S = 20;
const POINTS = 2000;

const Box = styled.div`
  display: grid;
  grid-template-rows: auto 15rem;
  gap: 6px;
  min-width: 0;
`;

/** The reading around what it passed. */
export function ExceedanceTrace({ type, record, run }: { type: WatchedType; record: ExceedanceEntry; run: string }) {
  const [trace, setTrace] = useState<Trace | null>(null);
  const from_s = Math.max(0, record.start_s - AROUND_S);
  const to_s = record.end_s + AROUND_S;
  useEffect(() => {
    let here = true;
    getBytes(`/runs/${run}/trace?from=${from_s}&to=${to_s}&points=${POINTS}`).then(
      (bytes) => here && setTrace(decodeChunk(bytes, type.channels.map((c) => c.id))),
      () => undefined,
    );
    return () => {
      here = false;
    };
  }, [run, from_s, to_s, type]); // oxfmt-ignore
  const [sheet, size] = useSize<HTMLDivElement>();
  const channel = type.channels.find((c) => c.id === record.channel);
  const limit = type.limits.find((l) => l.id === record.limit);
  const points = useMemo(() => (trace ? known(trace, record.channel) : []), [trace, record.channel]);
  if (!channel) return null;
  const values = [...points.map(([, v]) => v), record.edge, record.peak];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const room = 0.1 * (high - low || 1);
  const x = linearScale([from_s, to_s], [52, size.width - 10]);
  const y = linearScale([low - room, high + room], [size.height - 26, 10]);
  const above = record.peak >= record.edge;
  const label = `${channel.label} around the exceedance: peak ${record.peak} ${channel.unit} at ${record.peakAt_s.toFixed(1)} s, edge ${record.edge}`;
  return (
    <Box>
      <ChartTitle title={channel.label} about={`${channel.unit}, ${AROUND_S} s before and after`} />
      <Sheet ref={sheet}>
        {size.width > 0 && (
          <svg role="img" aria-label={label}>
            {limit && <LimitBands limit={limit} unit={channel.unit} y={y} left={52} right={size.width - 10} end={above ? 10 : size.height - 26} words />}
            <rect x={x(record.start_s)} y={10} width={Math.max(2, x(record.end_s) - x(record.start_s))} height={size.height - 36} fill="var(--now)" opacity="0.12" />
            <TickFigures x={x} y={y} left={52} bottom={size.height - 26} />
            <polyline points={points.map(([t, v]) => `${x(t).toFixed(1)},${y(v).toFixed(1)}`).join(' ')} fill="none" stroke="var(--ink)" strokeWidth="2" />
            <circle cx={x(record.peakAt_s)} cy={y(record.peak)} r="5" fill="var(--sheet)" stroke="var(--now)" strokeWidth="3" />
          </svg>
        )}
      </Sheet>
    </Box>
  );
} // oxfmt-ignore

function known(trace: Trace, channel: string): [number, number][] {
  const values = columnOf(trace, channel);
  return [...trace.t_s].flatMap((t, i): [number, number][] => (Number.isNaN(values[i]!) ? [] : [[t, values[i]!]]));
}
