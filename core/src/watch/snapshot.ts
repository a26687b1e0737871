import type { Channel, Phase, TypeFile, Verdict } from '../aircraft/index.ts';
import type { StartState } from './events.ts';
import type { Milestone } from './milestone.ts';
import type { EnginePhase, StartMachine } from './start-machine.ts';
import { TurbineStartMachine } from './turbine-start.ts';
import type { Watch } from './watch.ts';

export interface GateSnapshot {
  id: string;
  label: string;
  channel: string;
  words: string;
  at: 'starter' | 'fuel';
  verdict: Verdict;
  /** the reading that decides, with its unit; null when it is unknown */
  reading: string | null;
  /** forecast of when it will hold, null when there is none */
  in_s: number | null;
}

/** One engine start at one moment. */
export interface StartSnapshot {
  watch: string;
  state: StartState;
  phase: EnginePhase;
  /** it has come down after a stop: only then do gates say how the next start will find it */
  ranDown: Verdict;
  starterAt_s: number | null;
  /** seconds of the present engagement, what the duty cycle leaves, and the rest that is due */
  starterOn_s: number;
  starterLeft_s: number;
  starterAllowed_s: number;
  restDue_s: number;
  /** engagements before the long rest */
  triesLeft: number;
  rate_K_s: number;
  speedRate_pct_s: number;
  /** closed-form peak: only while the temperature rises towards it and its readings can be believed */
  peak: { at_C: number; in_s: number } | null;
  /** why a reading that decides cannot be believed */
  doubt: string | null;
  milestones: Milestone[];
  gates: GateSnapshot[];
}

/** The watch at one moment, as screens show it. */
export interface WatchSnapshot {
  phase: Phase;
  sourceLost: boolean;
  /** in the order of the type's start watches */
  starts: StartSnapshot[];
  /** which of them goes on, or did last */
  leading: number;
  /** channels that are inside a time-limited band, with what is left */
  room: { channel: string; band: string; edge: number; remaining_s: number }[];
}

const PEAK_SHOWN_BELOW_K_S = 60;

const finite = (v: number): number | null => (Number.isFinite(v) ? v : null);

export function snapshotOf(watch: Watch, type: TypeFile): WatchSnapshot {
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
    starts: watch.starts.map((machine) => startOf(machine, watch.lastFrame_s, watch.sourceLost)),
    leading: watch.starts.indexOf(watch.start),
    room,
  };
}

function startOf(machine: StartMachine, t_s: number, sourceLost: boolean): StartSnapshot {
  const { record, duty } = machine;
  const turbine = machine instanceof TurbineStartMachine ? machine.predictor : null;
  // far from its peak the closed form is far too low: nothing is shown before its spread is small
  const near = turbine !== null && turbine.peakIn_s > 0.15 && turbine.rate_K_s < PEAK_SHOWN_BELOW_K_S;
  const rising = machine.state === 'accelerating' || machine.state === 'self-sustaining';
  return {
    watch: machine.spec.id,
    state: machine.state,
    phase: machine.phase,
    ranDown: machine.ranDown,
    starterAt_s: finite(record.starterAt_s),
    starterOn_s: duty.on_s,
    starterLeft_s: duty.left_s,
    starterAllowed_s: duty.allowed_s,
    restDue_s: Number.isNaN(t_s) ? 0 : duty.restDue_s(t_s),
    triesLeft: duty.triesLeft(t_s),
    rate_K_s: turbine?.rate_K_s ?? 0,
    speedRate_pct_s: turbine?.speedRate_pct_s ?? 0,
    peak: turbine && near && rising && machine.doubt === null ? { at_C: turbine.peak_C, in_s: turbine.peakIn_s } : null,
    doubt: machine.doubt,
    milestones: machine.milestones(),
    gates: machine.gates.map((gate) => ({
      id: gate.spec.id,
      label: gate.spec.label,
      channel: gate.channel,
      words: gate.words,
      at: gate.spec.at,
      // what it read before the line was lost is not what it reads now
      verdict: sourceLost ? 'unknown' : gate.verdict,
      reading: sourceLost || Number.isNaN(gate.value) ? null : gate.reading,
      in_s: sourceLost ? null : gate.predicted_s(),
    })),
  };
}

/** The phase that decides which limits of a channel are in force: that of its engine, or of the aircraft. */
export function limitPhase(type: TypeFile, snapshot: WatchSnapshot, channel: Channel): Phase {
  const at = type.startWatches.findIndex((w) => channel.engine !== undefined && w.engine === channel.engine);
  const phase = snapshot.starts[at]?.phase;
  if (phase === undefined) return snapshot.phase;
  if (phase !== 'running') return phase;
  return snapshot.phase === 'start' || snapshot.phase === 'off' ? 'idle' : snapshot.phase;
}
