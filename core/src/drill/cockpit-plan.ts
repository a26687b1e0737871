import { type CockpitControl, type Item, stagesOf, type WatchedType } from '../aircraft/index.ts';

/** One zone of a cockpit: what can be moved there, and what is looked at, read or said there. */
export interface PlanZone {
  zone: string;
  controls: CockpitControl[];
  /** items that no control of the plan settles, by name, so that their places do not tell their order */
  spots: Item[];
}

/** Whether a person has to say something of an item: what only switches settle needs no word. */
export function isSpot(type: WatchedType, item: Item): boolean {
  const controls = new Set(type.cockpit?.flatMap((c) => c.moves));
  const moved = (item.standIn ?? []).some((a) => controls.has(a.control));
  switch (item.kind) {
    case 'wait':
    case 'watch':
      return false;
    case 'set':
    case 'hold':
      return !moved;
    case 'measure':
      return item.trace !== undefined && stagesOf(item).some((s) => !s.expect);
    default:
      return true;
  }
}

/** The cockpit of a type, zone by zone: those with controls first, in the order of its table. @param items those of a lesson */
export function cockpitPlan(type: WatchedType, items: readonly Item[]): PlanZone[] {
  const controls = type.cockpit ?? [];
  const spots = items.filter((item) => isSpot(type, item));
  const zones = new Set([...controls.map((c) => c.zone), ...spots.map((i) => i.zone)]);
  return [...zones].map((zone) => ({
    zone,
    controls: controls.filter((c) => c.zone === zone),
    spots: spots.filter((i) => i.zone === zone).toSorted((a, b) => a.challenge.localeCompare(b.challenge)),
  }));
}
