import type { WatchedType } from '@rouse/core/aircraft';
import type { DrillCost } from '@rouse/core/contract';

export interface LegCost {
  label: string;
  points: number;
  items: { label: string; times: number; points: number }[];
}

/** What belongs to no leg: controls that nothing asked for, and starts. */
const ANYWHERE = 'Anywhere';

/** Costs by leg, the dearest first, each with its items. What the type no longer has is left out. */
export function costsByLeg(type: WatchedType, costs: readonly DrillCost[]): LegCost[] {
  const legs = new Map<string, LegCost>();
  for (const { of, times, points } of costs) {
    const item = type.items.find((i) => i.id === of);
    const label = item?.challenge ?? type.cockpit?.find((c) => c.id === of)?.label;
    if (label === undefined) continue;
    const name = type.legs.find((l) => l.id === item?.leg)?.label ?? ANYWHERE;
    const leg = legs.get(name) ?? { label: name, points: 0, items: [] };
    legs.set(name, { ...leg, points: leg.points + points, items: [...leg.items, { label, times, points }] });
  }
  return [...legs.values()].toSorted((a, b) => b.points - a.points);
}
