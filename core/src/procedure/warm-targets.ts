import type { ChannelTest, Condition, Item, TypeFile } from '../aircraft/index.ts';

/** The temperatures that a wait waits for, each with its target; none where it waits for something else. */
export function warmTargets(type: TypeFile, item: Item): { channel: string; target_C: number }[] {
  if (item.kind !== 'wait') return [];
  return testsOf(item.until).flatMap((test) => {
    const unit = type.channels.find((c) => c.id === test.channel)?.unit;
    return 'atLeast' in test && unit === '°C' && test.minus === undefined
      ? [{ channel: test.channel, target_C: test.atLeast }]
      : [];
  });
}

function testsOf(condition: Condition): ChannelTest[] {
  if ('all' in condition) return condition.all.flatMap(testsOf);
  return 'channel' in condition ? [condition] : [];
}
