import { type Conditions, NormalSource, SimulatedCockpit } from '@rouse/core/simulator';
import { type Corridor, learnCorridor, Watch } from '@rouse/core/watch';
import { type Line, skerry } from './measure.ts';

const LEARNED = 40;
const GOOD = 1000;
const HOT = 108;
const SECONDS = 60;
/** the control stops a hot start by itself before 900 °C: the lead counts to the two-second band */
const BAND_C = 835;

type Move = [at_s: number, control: string, to: number | string];

/** What the watch raises in good starts, and how long before the two-second band it warns in hot ones. */
export function alarms(): Line[] {
  const chance = new NormalSource(2026);
  const corridor = learn(new NormalSource(7));
  let raised = 0;
  let aborted = 0;
  for (let i = 0; i < GOOD; i++) {
    const { cautions, abort_s } = start(ordinary(chance), [], corridor, 5000 + i);
    if (cautions > 0) raised++;
    if (abort_s !== null) aborted++;
  }
  const leads: number[] = [];
  let missed = 0;
  let crossed = 0;
  for (let i = 0; i < HOT; i++) {
    const { over_s, warned_s } = start(ordinary(chance), hotBy(i), corridor, 9000 + i);
    if (over_s === null) continue;
    crossed++;
    if (warned_s === null || warned_s > over_s) missed++;
    else leads.push(over_s - warned_s);
  }
  leads.sort((a, b) => a - b);
  const at = (share: number): number => leads[Math.floor(share * (leads.length - 1))] ?? NaN;
  const hot = `${crossed} of ${HOT} hot starts passed ${BAND_C} °C, ${missed} of them without a warning before`;
  return [
    {
      name: `watch: good S7 starts of ${GOOD} in which anything is raised`,
      value: raised,
      unit: 'starts',
      wanted: 'at most',
      target: 0,
      remark: `${aborted} of them stopped; habit learned from ${LEARNED} others of the same weather`,
    },
    { name: 'watch: warning before the two-second band, median', value: at(0.5), unit: 's', wanted: 'at least', target: 1, remark: hot }, // prettier-ignore
    { name: 'watch: warning before the two-second band, tenth percentile', value: at(0.1), unit: 's', wanted: 'at least', target: 0.61 }, // prettier-ignore
  ];
}

/** Ordinary flying weather and an ordinary battery, by chance. */
function ordinary(chance: NormalSource): Conditions {
  return {
    env: { oat_c: 4 + 16 * chance.uniform(), headwind_kt: 10 * chance.uniform() },
    soc: 0.8 + 0.15 * chance.uniform(),
    batt_age: 1 + 0.3 * chance.uniform(),
    oil_temp_c: 40,
    mgb_temp_c: 40,
  };
}

/** Causes of a hot start: a metering valve that sticks open by more and more, after the light, at another speed each. */
function hotBy(i: number): { above_pct: number; fault: string; to: number }[] {
  const above_pct = [15, 20, 26][i % 3]!;
  return [{ above_pct, fault: 'fault.e1.wf_stuck_kg_s', to: 0.009 + 0.00016 * Math.floor(i / 3) }];
}

function learn(chance: NormalSource): Corridor {
  const starts = [];
  for (let i = 0; i < LEARNED; i++) {
    const { profile } = start(ordinary(chance), [], null, 100 + i);
    if (profile) starts.push(profile);
  }
  const corridor = learnCorridor(starts);
  if (!corridor) throw new Error('no habit was learned');
  return corridor;
}

function start(
  conditions: Conditions,
  faults: { above_pct: number; fault: string; to: number }[],
  corridor: Corridor | null,
  seed: number,
): {
  cautions: number;
  abort_s: number | null;
  over_s: number | null;
  warned_s: number | null;
  profile: Parameters<typeof learnCorridor>[0][number] | null;
} {
  const cockpit = new SimulatedCockpit(skerry, conditions, [], seed);
  const tot = skerry.channels.findIndex((c) => c.id === 'tot.1');
  const ng = skerry.channels.findIndex((c) => c.id === 'ng.1');
  const found = {
    cautions: 0,
    abort_s: null as number | null,
    over_s: null as number | null,
    warned_s: null as number | null,
    profile: null as Parameters<typeof learnCorridor>[0][number] | null,
  };
  const watch = new Watch(skerry, { [skerry.startWatches[0].id]: corridor }, (e) => {
    if (e.kind === 'cue' && e.severity !== 'call') {
      found.cautions++;
      found.warned_s ??= e.t_s;
    }
    if (e.kind === 'abort') {
      found.abort_s ??= e.t_s;
      found.warned_s ??= e.t_s;
    }
    if (e.kind === 'start-done')
      found.profile = {
        profile: e.profile,
        outsideAir_C: e.record.outsideAir_C,
        voltsBefore_V: e.record.voltsBefore_V,
      };
  });
  const moves: Move[] = [
    ...['battery', 'load.base_bus', 'load.anticollision', 'boost'].map((c): Move => [0.1, c, 1]),
    [3, 'e1.mode', 'IDLE'],
    [3, 'e1.start', 1],
    [5, 'e1.start', 0],
  ];
  const waiting = [...faults];
  for (let k = 1; k <= SECONDS * 50; k++) {
    const t_s = k / 50;
    for (const [at_s, control, to] of moves) if (Math.abs(at_s - t_s) < 0.001) cockpit.move({ control, to });
    const values = cockpit.tick();
    for (const f of waiting.splice(0))
      if (values[ng]! >= f.above_pct) cockpit.move({ control: f.fault, to: f.to });
      else waiting.push(f);
    if (values[tot]! > BAND_C) found.over_s ??= t_s;
    watch.step(t_s, values);
  }
  return found;
}
