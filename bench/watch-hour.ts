import { needWatched } from '@rouse/core/aircraft';
import { SimulatedCockpit } from '@rouse/core/simulator';
import { type Trace, TraceBuilder } from '@rouse/core/trace';
import { Watch } from '@rouse/core/watch';
import { types } from '../tests/skerry.ts';
import { best, type Line, many } from './measure.ts';

const HOUR_S = many(3_600, 220);
// the moments below are all flown in either form: what they name must be there
const FLOWN_S = many(300, 210);

/** One hour of the twin with the auxiliary unit, fifty frames a second: both starts, then at work. */
export function watchHour(): Line {
  const type = needWatched(types.filter((t) => t.id === 'X14').toSorted((a, b) => b.version - a.version)[0]!);
  const trace = hourOf(type);
  let events = 0;
  const seconds = best(7, () => {
    const watch = new Watch(type, {}, () => events++);
    watch.replay(trace);
  });
  if (events === 0) throw new Error('nothing was watched');
  return {
    name: `watch: an hour of 50 Hz with ${type.channels.length} channels`,
    value: seconds * 1000,
    unit: 'ms',
    wanted: 'at most',
    target: 300,
    remark: `${((seconds / trace.t_s.length) * 1e9).toFixed(0)} ns a frame, three starts among them`,
  };
}

/** The first minutes are flown; the last of them goes on with its noise until the hour is full. */
function hourOf(type: ReturnType<typeof needWatched>): Trace {
  const cockpit = new SimulatedCockpit(type, { env: { oat_c: 15 }, soc: 0.9 }, [], 11);
  const builder = new TraceBuilder(
    type.channels.map((c) => c.id),
    HOUR_S * 50,
  );
  const standIn = (id: string): void => {
    for (const action of type.items.find((i) => i.id === id)!.standIn!) cockpit.move(action);
  };
  const moments: [number, string][] = [
    [2, 'battery-on'], [4, 'beacon-on'], [5, 'boost-on'], [6, 'rotor-brake'], [10, 'apu-start'],
    [50, 'start-1-first'], [80, 'generator-1-first'], [100, 'start-2-second'], [130, 'generator-2-second'],
  ]; // oxfmt-ignore
  const minute: Float64Array[] = [];
  for (let k = 1; k <= FLOWN_S * 50; k++) {
    for (const [at_s, id] of moments) if (k === at_s * 50) standIn(id);
    if (k === 140 * 50) cockpit.move({ control: 'rotor_brake', to: 0 });
    if (k === 200 * 50) for (const e of ['e1', 'e2']) cockpit.move({ control: `${e}.mode`, to: 'FLY' });
    const values = cockpit.tick();
    builder.push(k / 50, values);
    if (k > (FLOWN_S - 60) * 50) minute.push(values.slice());
  }
  for (let k = FLOWN_S * 50 + 1; k <= HOUR_S * 50; k++) builder.push(k / 50, minute[k % minute.length]!);
  return builder.toTrace();
}
