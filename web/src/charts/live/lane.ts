import type { Channel, TypeFile } from '@rouse/core/aircraft';
import { useEffect, useState } from 'react';
import { everyPulse } from '../../platform/pulse.ts';
import { ring } from '../../run/frame-ring.ts';

/** What a lane shows of one channel: its line, the window that it should keep, the edge that it must not reach. */
export interface Shown {
  channel: string;
  window?: readonly [number, number] | undefined;
  edge?: { at: number; words: string } | undefined;
}

interface LaneLine {
  channel: Channel;
  index: number;
  colour: string;
}

/** Channels of one unit over one height. */
export interface Lane {
  unit: string;
  lines: LaneLine[];
  windows: (readonly [number, number])[];
  edges: { at: number; words: string }[];
}

const COLOURS = ['--ink', '--track', '--limit-ink', '--soft'];

/** Channels one below the other by their unit, in the order in which they are named. */
export function lanesOf(type: TypeFile, shown: readonly Shown[]): Lane[] {
  const lanes: Lane[] = [];
  for (const { channel: id, window, edge } of shown) {
    const index = type.channels.findIndex((c) => c.id === id);
    const channel = type.channels[index]!;
    let lane = lanes.find((l) => l.unit === channel.unit);
    if (!lane) lanes.push((lane = { unit: channel.unit, lines: [], windows: [], edges: [] }));
    lane.lines.push({ channel, index, colour: COLOURS[lane.lines.length % COLOURS.length]! });
    if (window) lane.windows.push(window);
    if (edge) lane.edges.push(edge);
  }
  return lanes;
}

/** A lane shows at least so much of its unit: noise is not blown up to look like news. */
const LEAST_SPAN: Readonly<Record<string, number>> = { '%': 8, '°C': 8, A: 10, bar: 2, V: 2, '': 0.5 };
const DOMAIN_EVERY_MS = 500;
const EVERY_NTH_FRAME = 5;

/**
 * The height of each lane in its own unit: what was read in the last seconds, its window and its edge, with some air.
 * @param lanes the same ones for as long as the drawing lives
 */
export function useLaneDomains(lanes: readonly Lane[], seconds: number): [number, number][] {
  const [domains, setDomains] = useState(() => lanes.map((lane) => wanted(lane, seconds)));
  useEffect(() => {
    const look = (): void =>
      setDomains((held) => {
        const next = lanes.map((lane, i) => settle(held[i], wanted(lane, seconds)));
        return next.every((d, i) => d === held[i]) ? held : next;
      });
    return everyPulse(DOMAIN_EVERY_MS, look);
  }, [lanes, seconds]);
  return domains;
}

function wanted(lane: Lane, seconds: number): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  const take = (v: number): void => {
    if (v < low) low = v;
    if (v > high) high = v;
  };
  lane.windows.forEach((w) => w.forEach(take));
  lane.edges.forEach((e) => take(e.at));
  for (const { index } of lane.lines)
    for (let i = ring.indexAt(ring.lastTime() - seconds); i < ring.length; i += EVERY_NTH_FRAME)
      take(ring.valueAt(index, i));
  if (!Number.isFinite(low)) return [0, LEAST_SPAN[lane.unit] ?? 1];
  const span = Math.max(high - low, LEAST_SPAN[lane.unit] ?? 1);
  const middle = (low + high) / 2;
  return [middle - 0.6 * span, middle + 0.6 * span];
}

/** A height changes only when readings leave it, or when it has become far too tall. */
function settle(held: [number, number] | undefined, next: [number, number]): [number, number] {
  if (!held) return next;
  const [low, high] = held;
  const air = 0.05 * (next[1] - next[0]);
  const outside = next[0] + air < low || next[1] - air > high;
  return outside || high - low > 2 * (next[1] - next[0]) ? next : held;
}
