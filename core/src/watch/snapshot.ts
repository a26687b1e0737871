import type { TypeFile } from '../aircraft/index.ts';
import type { StartState } from './events.ts';
import type { Watch } from './watch.ts';

/** What a start is waiting for next, with its figure and its deadline. */
export interface Milestone {
  id: string;
  title: string;
  words: string;
  /** run clock by which it must have come, null when a speed decides */
  due_s: number | null;
  met: boolean;
}

/** The watch at one moment, as screens show it. */
export interface WatchSnapshot {
  phase: string;
  sourceLost: boolean;
  start: {
    state: StartState;
    starterAt_s: number | null;
    /** seconds of the present engagement, and what the duty cycle leaves */
    starterOn_s: number;
    starterLeft_s: number;
    rate_K_s: number;
    speedRate_pct_s: number;
    /** closed-form peak: only while the temperature rises towards it */
    peak: { at_C: number; in_s: number } | null;
    milestones: Milestone[];
  };
  /** channels that are inside a time-limited band, with what is left */
  room: { channel: string; band: string; edge: number; remaining_s: number }[];
}

const PEAK_SHOWN_BELOW_K_S = 60;

const finite = (v: number): number | null => (Number.isFinite(v) ? v : null);

export function snapshotOf(watch: Watch, type: TypeFile): WatchSnapshot {
  const machine = watch.start;
  const { spec, record, predictor } = machine;
  // far from its peak the closed form is far too low: nothing is shown before its spread is small
  const near = predictor.peakIn_s > 0.15 && predictor.rate_K_s < PEAK_SHOWN_BELOW_K_S;
  const rising = near && (machine.state === 'accelerating' || machine.state === 'self-sustaining');
  const room: WatchSnapshot['room'] = [];
  for (const channel of new Set(type.limits.map((l) => l.channel))) {
    const found = watch.roomOf(channel);
    if (found)
      room.push({
        channel,
        band: found.band.id,
        edge: 'above' in found.band ? found.band.above : found.band.below,
        remaining_s: found.remaining_s,
      });
  }
  return {
    phase: watch.phase,
    sourceLost: watch.sourceLost,
    start: {
      state: machine.state,
      starterAt_s: finite(record.starterAt_s),
      starterOn_s: machine.starterOn_s,
      starterLeft_s: Math.max(0, spec.starterDuty.on1_s - machine.starterOn_s),
      rate_K_s: predictor.rate_K_s,
      speedRate_pct_s: predictor.speedRate_pct_s,
      peak: rising ? { at_C: predictor.peak_C, in_s: predictor.peakIn_s } : null,
      milestones: [
        {
          id: 'light-off',
          title: 'Light-off',
          words: `within ${spec.lightWithin_s} s of fuel`,
          due_s: finite(record.fuelAt_s + spec.lightWithin_s),
          met: Number.isFinite(record.lightAt_s),
        },
        {
          id: 'oil',
          title: 'Oil pressure',
          words: `${spec.oilFirst_bar} bar within ${spec.oilFirstWithin_s} s of light-off`,
          due_s: finite(record.lightAt_s + spec.oilFirstWithin_s),
          met: Number.isFinite(record.oilAt_s),
        },
        {
          id: 'rotor',
          title: 'Rotor turning',
          words: `by ${spec.rotorMovingBy_pct} % Ng`,
          due_s: null,
          met: Number.isFinite(record.rotorAt_s),
        },
        {
          id: 'starter',
          title: 'Starter cut-out',
          words: `by ${spec.starterRelease_pct} % Ng, on its own`,
          due_s: null,
          met: Number.isFinite(record.selfSustainingAt_s),
        },
        {
          id: 'idle',
          title: 'Idle stable',
          words: `${spec.idle_pct[0]} to ${spec.idle_pct[1]} % for ${spec.idleFor_s} s`,
          due_s: finite(record.starterAt_s + spec.idleWithin_s),
          met: machine.state === 'idle',
        },
      ],
    },
    room,
  };
}
