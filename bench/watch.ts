import { writeDeviceLine } from '@rouse/core/format';
import { rowInto, type Trace } from '@rouse/core/trace';
import { Watch } from '@rouse/core/watch';
import { bestInTurn, type Line, skerry, TWENTY } from './measure.ts';

const ROUNDS = 40;

/** Watching frames against parsing the same frames from their lines, in one run. */
export function watch(trace: Trace): Line {
  const rows = trace.t_s.length;
  const frames = Array.from({ length: rows }, (_, i) => {
    const values = new Float64Array(skerry.channels.length);
    rowInto(trace, i, values);
    return values;
  });
  const twenty = TWENTY.map((c) => skerry.channels.indexOf(c));
  const lines = frames.map((f, i) =>
    writeDeviceLine(
      trace.t_s[i]!,
      twenty.map((k) => f[k]!),
      TWENTY,
    ),
  );
  let sum = 0;
  let replayed = 0;
  let stepped = 0;
  const [parsing, replaying, stepping] = bestInTurn(ROUNDS, [
    () => {
      for (const line of lines) sum += (JSON.parse(line) as { t: number }).t;
    },
    () => new Watch(skerry, {}, () => replayed++).replay(trace),
    () => {
      const watcher = new Watch(skerry, {}, () => stepped++);
      for (let i = 0; i < rows; i++) watcher.step(trace.t_s[i]!, frames[i]!);
    },
  ]) as [number, number, number];
  if (sum === 0 || replayed === 0 || stepped === 0) throw new Error('nothing was measured');
  const ns = (s: number): string => ((s / rows) * 1e9).toFixed(0);
  return {
    name: 'watch: frames of 20 channels against JSON.parse of the same',
    value: parsing / replaying,
    unit: 'x faster',
    wanted: 'at least',
    target: 40,
    remark: `${ns(replaying)} ns a frame replayed, ${ns(stepping)} ns when each comes alone, ${ns(parsing)} ns parsed, over a whole ten-minute run`,
  };
}
