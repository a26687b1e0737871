import type { WatchedType } from '@rouse/core/aircraft';
import type { DrillCost } from '@rouse/core/contract';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { Aid, Small } from '../../ui/heading.ts';
import { costsByLeg } from './costs-by-leg.ts';

const Leg = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto;
  gap: 0 8px;
  padding: 6px 0;
  border-top: 1px solid var(--hair);
  font-size: 0.875rem;
  b {
    ${mono}
  }
  p {
    grid-column: 1 / -1;
  }
`;

const SHOWN = 3;

/** What has cost this person most, over all drills on a type: by leg, and in it by item. */
export function Costs({ type, costs }: { type: WatchedType; costs: readonly DrillCost[] }) {
  const legs = costsByLeg(type, costs);
  if (legs.length === 0) return null;
  return (
    <>
      <Small>What has cost you most</Small>
      <ul aria-label="What has cost you most">
        {legs.map((leg) => (
          <Leg key={leg.label} data-costs={leg.label}>
            {leg.label} <b>−{Math.round(leg.points)}</b>
            <Aid>
              {leg.items
                .slice(0, SHOWN)
                .map((i) => `${i.label}, ${i.times === 1 ? 'once' : `${i.times} times`}`)
                .join('; ')}
            </Aid>
          </Leg>
        ))}
      </ul>
    </>
  );
}
