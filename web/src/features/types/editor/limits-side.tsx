import type { Limit, TypeFile } from '@rouse/core/aircraft';
import styled from 'styled-components';
import { RoomBar } from '../../../charts/room-bar.tsx';
import { Small } from '../../../ui/heading.ts';
import { Side } from './side.ts';

const Bars = styled.ul`
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
  display: grid;
  gap: 12px;
  font-size: 0.84375rem;
  small {
    color: var(--soft);
  }
`;

/** Each gauge with its limits as the pilot sees it, once for the phases that have the same ones. */
export function LimitsSide({ type }: { type: TypeFile | null }) {
  if (!type)
    return (
      <Side tabIndex={0} aria-label="As the pilot will see it">
        Mend what is wrong to see the gauges.
      </Side>
    );
  return (
    <Side tabIndex={0} aria-label="As the pilot will see it">
      <Small>As the pilot will see it</Small>
      <Bars>
        {gaugesOf(type).map(({ channel, phases, limits }) => (
          <li key={`${channel.id} ${phases.join()}`} data-gauge={channel.id}>
            {channel.label}{' '}
            <small>
              {channel.range[0]} to {channel.range[1]} {channel.unit} · {phases.join(', ')}
            </small>
            <RoomBar range={channel.range} limits={limits} value={(channel.range[0] + channel.range[1]) / 2} />
          </li>
        ))}
      </Bars>
      <p>The needle stands in the middle. Hatched: not allowed, or the last band. Light: for a time.</p>
    </Side>
  );
}

interface Gauge {
  channel: TypeFile['channels'][number];
  phases: string[];
  limits: Limit[];
}

function gaugesOf(type: TypeFile): Gauge[] {
  return type.channels.flatMap((channel): Gauge[] => {
    const own = type.limits.filter((l) => l.channel === channel.id);
    const bySet = new Map<string, Gauge>();
    for (const phase of new Set(own.flatMap((l) => l.phases))) {
      const limits = own.filter((l) => l.phases.includes(phase));
      const key = limits.map((l) => l.id).join();
      const gauge = bySet.get(key) ?? { channel, phases: [], limits };
      gauge.phases.push(phase);
      bySet.set(key, gauge);
    }
    return [...bySet.values()];
  });
}
