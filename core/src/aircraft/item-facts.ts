import type { Item } from './procedure-items.ts';
import type { Stage } from './trace-check.ts';

/** The stages of a test or of a check that is measured, or the moments of a watch. */
export function stagesOf(item: Item): readonly Stage[] {
  switch (item.kind) {
    case 'test':
      return item.stages;
    case 'watch':
      return item.moments ?? [];
    case 'measure':
      return item.trace?.stages ?? [];
    default:
      return [];
  }
}

/** How long a hold lasts in this air: held at the ends of its table. */
export function holdSeconds(item: Extract<Item, { kind: 'hold' }>, oat_C: number | null): number {
  const table = item.byOutsideAir;
  if (!table || oat_C === null) return item.hold_s;
  const above = table.findIndex(([t]) => t >= oat_C);
  if (above === 0) return table[0]![1];
  if (above < 0) return table[table.length - 1]![1];
  const [a, b] = [table[above - 1]!, table[above]!];
  return a[1] + ((oat_C - a[0]) / (b[0] - a[0])) * (b[1] - a[1]);
}
