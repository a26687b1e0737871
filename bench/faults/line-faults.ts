import { flyPractice } from '@rouse/core/drill';
import { createSession, NO_PAST } from '@rouse/core/session';
import { conditionsOf, NormalSource } from '@rouse/core/simulator';
import { rowInto, type Trace } from '@rouse/core/trace';
import { type Line, skerry } from '../measure.ts';

/** What a line may do to one frame: nothing, lose it, or bring it later, spoilt or twice. */
type Fault = (i: number, t_s: number, chance: NormalSource) => { keep: boolean; late_s?: number; lost?: number[] };

const share =
  (p: number): Fault =>
  (_i, _t, chance) => ({ keep: chance.uniform() >= p });
const every =
  (n: number): Fault =>
  (i) => ({ keep: i % n === 0 });
const hole =
  (from_s: number, for_s: number): Fault =>
  (_i, t) => ({ keep: t < from_s || t >= from_s + for_s });
const column =
  (id: string, p: number): Fault =>
  (_i, _t, chance) => ({
    keep: true,
    lost: chance.uniform() < p ? [skerry.channels.findIndex((c) => c.id === id)] : [],
  });

/** Forty ways in which a line can be bad. @param start_s when the starter turns */
function faultsAround(start_s: number): [string, Fault][] {
  return [
    ...[0.05, 0.2, 0.4, 0.6, 0.8, 0.9].map((p): [string, Fault] => [`${p * 100} % of the frames lost`, share(p)]),
    ...[2, 5, 10, 12, 25, 50].map((n): [string, Fault] => [`one frame in ${n}`, every(n)]),
    ...[0, 4, 8, 12, 16, 20, 25].flatMap((at) =>
      [0.7, 2.5, 8].map((for_s): [string, Fault] => [
        `a hole of ${for_s} s, ${at} s after the starter`,
        hole(start_s + at, for_s),
      ]),
    ),
    ...['tot.1', 'ng.1', 'oil.1.pressure', 'bus.volts', 'fuel.1.flow', 'nr', 'engine.1.selector'].map(
      (id): [string, Fault] => [`${id} lost in a third of the frames`, column(id, 0.33)],
    ),
  ];
}

function watched(trace: Trace, fault: Fault): { aborted: boolean; verdict: string | null; warned: boolean } {
  const chance = new NormalSource(11);
  let n = 0;
  const session = createSession(skerry, {
    run: '00000000-0000-7000-8000-000000000000',
    past: NO_PAST,
    stamp: (t_s) => ({ id: String(++n), at_ms: t_s * 1000 }),
  });
  session.open('bench', { tail: '', type: skerry.id, typeVersion: skerry.version, source: 'device', pad: '', conditions: '' }, null); // oxfmt-ignore
  const values = new Float64Array(trace.columns.length);
  for (let i = 0; i < trace.t_s.length; i++) {
    const t_s = trace.t_s[i]!;
    const { keep, lost = [] } = fault(i, t_s, chance);
    if (i % 5 === 0) session.clock(t_s);
    if (!keep) continue;
    rowInto(trace, i, values);
    for (const k of lost) values[k] = NaN;
    session.frame(t_s, values);
  }
  const done = session.entries.find((e) => e.kind === 'start-done');
  return {
    aborted: session.entries.some((e) => e.kind === 'abort' && e.reason !== 'sensor-lost'),
    warned: session.entries.some(
      (e) => e.kind === 'abort' || (e.kind === 'cue' && ['source-lost', 'start-unseen'].includes(e.code)),
    ),
    verdict: done?.kind === 'start-done' ? done.verdict : null,
  };
}

/** Forty bad lines on a healthy and on a hot start: none makes a false stop, and none makes a hot start good. */
export function lineFaults(): Line[] {
  const fly = (id: string): Trace => {
    const preset = skerry.standIn.find((p) => p.id === id)!;
    return flyPractice({ type: skerry, conditions: conditionsOf(skerry, preset), faults: preset.faults, corridors: {}, seed: 3 }).trace; // oxfmt-ignore
  };
  const healthy = fly('mild');
  const hot = fly('hot-start');
  const startOf = (trace: Trace): number => {
    const amps = trace.columns[trace.channels.indexOf(skerry.startWatches[0].starter.channel)]!;
    return trace.t_s[amps.findIndex((a) => a > skerry.startWatches[0].starter.onAbove)]!;
  };
  const falseStops = faultsAround(startOf(healthy)).filter(([, fault]) => watched(healthy, fault).aborted);
  const missed = faultsAround(startOf(hot)).filter(([, fault]) => {
    const { warned, verdict } = watched(hot, fault);
    return !warned || verdict === 'good';
  });
  const count = faultsAround(0).length;
  const words = (list: [string, Fault][]): string => list.map(([name]) => name).join('; ');
  return [
    { name: `line: healthy start stopped, ${count} faults`, value: falseStops.length, unit: 'times', wanted: 'at most', target: 0, remark: words(falseStops) }, // oxfmt-ignore
    { name: `line: hot start neither warned of nor unknown, ${count} faults`, value: missed.length, unit: 'times', wanted: 'at most', target: 0, remark: words(missed) }, // oxfmt-ignore
  ];
}
