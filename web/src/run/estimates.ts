import { channelsOf, type Item, type TypeFile } from '@rouse/core/aircraft';
import { begunAt_s, estimateWait, forecastWait, type WaitEstimate } from '@rouse/core/procedure';
import type { WarmReadings } from '@rouse/core/thermal';
import { ring } from './frame-ring.ts';
import type { FollowedRun, LiveStatus } from './run-slice.ts';

const LOOK_BACK_S = 15;
const EVERY_NTH_FRAME = 10;
/** a warm-up is followed by a reading a second */
const WARM_EVERY_NTH_FRAME = 50;

/** Whole seconds that an item must still last as it is seen now; null when it is something else that is waited for. */
export function dwell_s(status: LiveStatus | null, item: Item): number | null {
  const found = status?.dwells.find((d) => d.item === item.id);
  return found ? Math.ceil(found.left_s) : null;
}

/**
 * What is left of a wait: of what only has to last, else by how this tail warmed up before, else by the trend of the last
 * seconds.
 */
export function waitEstimate(
  { type, state, detail }: FollowedRun,
  item: Item,
  left_s: number | null,
): WaitEstimate | null {
  if (item.kind !== 'wait') return null;
  if (left_s !== null) return { seconds: left_s, low: left_s, high: left_s };
  if (ring.length === 0) return null;
  const begun_s = begunAt_s(state, item);
  const read = (channel: string): WarmReadings => {
    const { t_s, values } = readings(type, channel, begun_s, WARM_EVERY_NTH_FRAME);
    return { t_s, values_C: values };
  };
  const forecast = forecastWait(type, item, detail.past, outsideAir_C(type), read);
  if (forecast) return forecast;
  const { t_s, values } = readings(type, channelsOf(item.until)[0]!, ring.lastTime() - LOOK_BACK_S, EVERY_NTH_FRAME);
  return estimateWait(item.until, t_s, values);
}

function outsideAir_C(type: TypeFile): number {
  return ring.last(type.channels.findIndex((c) => c.id === type.roles.outsideAir));
}

function readings(type: TypeFile, channel: string, from_s: number, every: number): { t_s: number[]; values: number[] } {
  const index = type.channels.findIndex((c) => c.id === channel);
  const t_s: number[] = [];
  const values: number[] = [];
  for (let i = ring.indexAt(from_s); i < ring.length; i += every) {
    t_s.push(ring.timeAt(i));
    values.push(ring.valueAt(index, i));
  }
  return { t_s, values };
}
