import type { FlownDrill } from './flown-drill.ts';
import type { Loss } from './loss.ts';

const PASSED_WARNING = 15;
const PASSED_CAUTION = 6;
/** a band that is allowed for a while was used, and not used up */
const USED = { warning: 2, caution: 0, note: 0 } as const;
const STOPPED_BY_WATCH = 10;

/** Limits that were touched, with how long and how far; a start that the watch had to stop although nothing was wrong with it. */
export function roomOf({ entries, begun_s, struck, type }: FlownDrill): Loss[] {
  const losses: Loss[] = [];
  // what a fault does to the engine is met by the reaction
  const until_s = Math.min(Infinity, ...struck.filter((s) => s.fault.found === 'stop').map((s) => s.t_s));
  for (const entry of entries) {
    if (entry.t < begun_s || (entry.kind === 'exceedance' && !within(entry.start_s, begun_s, until_s))) continue;
    if (entry.kind === 'exceedance') {
      const channel = type.channels.find((c) => c.id === entry.channel);
      const points = !entry.expired
        ? USED[entry.severity]
        : entry.severity === 'warning'
          ? PASSED_WARNING
          : PASSED_CAUTION;
      if (points === 0) continue;
      const figure = `${entry.peak.toFixed(channel?.decimals ?? 0)} ${channel?.unit ?? ''}`.trim();
      losses.push({
        criterion: 'room',
        points,
        words: `${channel?.label ?? entry.channel} at ${figure}, ${entry.duration_s.toFixed(1)} s outside`,
        t_s: entry.t,
        of: entry.channel,
      });
    }
    if (entry.kind === 'abort' && entry.by === 'watch' && struck.length === 0)
      losses.push({ criterion: 'room', points: STOPPED_BY_WATCH, words: entry.text, t_s: entry.t, of: entry.reason });
  }
  return losses;
}

const within = (t_s: number, from_s: number, to_s: number): boolean => t_s >= from_s && t_s < to_s;
