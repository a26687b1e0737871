import { channelsOf, type Item, type TypeFile } from '@rouse/core/aircraft';
import { estimateWait, type WaitEstimate } from '@rouse/core/procedure';
import { ring } from './frame-ring.ts';

const LOOK_BACK_S = 15;
const EVERY_NTH_FRAME = 10;

/** What is left of a wait, from the readings of the last seconds. */
export function waitEstimate(type: TypeFile, item: Item): WaitEstimate | null {
  if (item.kind !== 'wait' || ring.length === 0) return null;
  const channel = type.channels.findIndex((c) => c.id === channelsOf(item.until)[0]);
  const t: number[] = [];
  const v: number[] = [];
  for (let i = ring.indexAt(ring.lastTime() - LOOK_BACK_S); i < ring.length; i += EVERY_NTH_FRAME) {
    t.push(ring.timeAt(i));
    v.push(ring.valueAt(channel, i));
  }
  return estimateWait(item.until, t, v);
}
