import { type Channel, sayValue, type TurbineStart, type WatchedType } from '../../aircraft/index.ts';
import { FT_m } from '../../atmosphere/index.ts';
import { columnOf, rowAt, type Trace } from '../../trace/index.ts';

/** The air that a start was made in, and what was left in the aircraft. NaN is not known. */
export interface StartDay {
  outsideAir_C: number;
  pressureAltitude_ft: number;
  /** from behind is negative */
  headwind_kt: number;
  residual_C: number;
}

/** Something that a hand moved, as the simulated aircraft takes it. */
export interface TwinMove {
  /** since the starter, s; what stood so before has 0 */
  t_s: number;
  control: string;
  /** null takes a test pilot's hand off */
  to: number | string | null;
}

/** One thing that a pilot did in a start: one switch once, or a lever as it was worked. */
export interface RecordedAct {
  t_s: number;
  words: string;
  moves: readonly TwinMove[];
}

/** A start of a real run, ready to be flown again on a twin. */
export interface RecordedStart {
  watch: TurbineStart;
  day: StartDay;
  acts: readonly RecordedAct[];
  /** its frames, from the starter on; the clock counts from there */
  trace: Trace;
}

/** so much of a start is looked at, s */
const WHOLE_S = 45;

/**
 * Cuts one start out of the trace of a run, with what its channels say of the controls.
 * @throws RangeError where the record does not suffice, in words that a person can act on
 */
export function recordedStart(type: WatchedType, run: Trace, watchId: string, starterAt_s: number, day: StartDay): RecordedStart {
  const watch = type.startWatches.find((w) => w.id === watchId);
  if (watch?.kind !== 'turbine') throw new RangeError('a twin is fitted to turbine starts only: how much a piston engine was primed, no channel tells');
  if (watch.engine !== type.engines[0]!.id) throw new RangeError('a twin is fitted to the engine that is started first');
  for (const [name, value] of Object.entries(day))
    if (!Number.isFinite(value)) throw new RangeError(`the ${DAY_WORDS[name as keyof StartDay]} of that start is not known`);
  const [from, to] = [rowAt(run, starterAt_s), rowAt(run, starterAt_s + WHOLE_S)];
  if (to - from < 2) throw new RangeError('its frames are not kept');
  const trace: Trace = {
    channels: run.channels,
    t_s: run.t_s.slice(from, to).map((t) => t - starterAt_s),
    columns: run.columns.map((c) => c.slice(from, to)),
  };
  return { watch, day, trace, acts: type.channels.flatMap((channel) => actsOf(type, channel, trace)) };
} // oxfmt-ignore

const DAY_WORDS: Readonly<Record<keyof StartDay, string>> = {
  outsideAir_C: 'outside air',
  pressureAltitude_ft: 'pressure altitude',
  headwind_kt: 'wind',
  residual_C: 'temperature left in the engine',
};

/** The simulated aircraft of that day, before anything is fitted. */
export function conditionsOfDay({ day, trace }: RecordedStart, type: WatchedType) {
  const first = (signal: string): number => {
    const channel = type.channels.find((c) => c.simulated?.signal === signal);
    const value = channel ? columnOf(trace, channel.id)[0] : undefined;
    return value === undefined || Number.isNaN(value) ? day.outsideAir_C : value;
  };
  return {
    env: { oat_c: day.outsideAir_C, pa_m: day.pressureAltitude_ft * FT_m, headwind_kt: day.headwind_kt },
    init: {
      batt_temp_c: day.outsideAir_C,
      residual_c: day.residual_C,
      oil_temp_c: first(`e${type.engines[0]!.id}.oil_t`),
      mgb_temp_c: first('mgb_t'),
    },
  };
}

const CONTROL = 'control.';
const GRIP = /^e\d+\.grip$/;

/** What a channel that tells of a control says was done with it. */
function actsOf(type: WatchedType, channel: Channel, trace: Trace): RecordedAct[] {
  const { signal, scale } = channel.simulated ?? { signal: '', scale: 1 };
  const isGrip = GRIP.test(signal);
  if (!isGrip && !signal.startsWith(CONTROL)) return [];
  const input = isGrip ? signal : signal.slice(CONTROL.length);
  const control = type.cockpit?.find((c) => c.moves.includes(input));
  const words = control?.positions.some((p) => typeof p.to === 'string') ? control.positions : null;
  const moves = (t_s: number, value: number): TwinMove[] => {
    const to = words ? words[Math.min(words.length - 1, Math.round(value))]!.to : value / scale;
    return (isGrip ? [input] : (control?.moves ?? [input])).map((moved) => ({ t_s, control: moved, to }));
  };
  const steps = stepsOf(columnOf(trace, channel.id), trace.t_s);
  if (steps.length === 0) return [];
  // a lever goes along its way: all of it is one act
  if (!channel.states) {
    const hand = isGrip ? [{ t_s: 0, control: input.replace('grip', 'pilot'), to: null }] : [];
    const all = [...hand, ...steps.flatMap((s) => moves(s.t_s, s.value))];
    return [{ t_s: steps[Math.min(1, steps.length - 1)]!.t_s, words: `${channel.label} as it was worked`, moves: all }];
  }
  return steps.map((s) => ({ t_s: s.t_s, words: `${channel.label} ${sayValue(channel, s.value)}`, moves: moves(s.t_s, s.value) }));
} // oxfmt-ignore

/** Where a column stands at first, and each time that it changes; what is not known changes nothing. */
function stepsOf(column: Float64Array, t_s: Float64Array): { t_s: number; value: number }[] {
  const steps: { t_s: number; value: number }[] = [];
  for (let i = 0; i < column.length; i++) {
    const value = column[i]!;
    if (!Number.isNaN(value) && value !== steps.at(-1)?.value) steps.push({ t_s: steps.length === 0 ? 0 : t_s[i]!, value }); // oxfmt-ignore
  }
  return steps;
}
