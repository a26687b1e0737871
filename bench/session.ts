import { createSession, NO_PAST } from '@rouse/core/session';
import { rowInto, type Trace } from '@rouse/core/trace';
import { bestInTurn, type Line, skerry } from './measure.ts';

const ROUNDS = 20;
const RUN_ID = '0193a000-0000-7000-8000-0000000000ff';

/** Frames that come alone through a whole session: watch, ratings, items that sensors settle, journal. */
export function session(trace: Trace): Line {
  const rows = trace.t_s.length;
  const frames = Array.from({ length: rows }, (_, i) => {
    const values = new Float64Array(skerry.channels.length);
    rowInto(trace, i, values);
    return values;
  });
  let entries = 0;
  let read = 0;
  const [through, parsing] = bestInTurn(ROUNDS, [
    () => {
      let n = 0;
      const stamp = (t_s: number) => ({
        id: `0193a000-0000-7000-8000-${String(++n).padStart(12, '0')}`,
        at_ms: 1e12 + t_s * 1000,
      });
      const run = createSession(skerry, { run: RUN_ID, past: NO_PAST, stamp });
      const { id, version } = skerry;
      run.open(
        'pilot',
        { tail: 'QV-SKY', type: id, typeVersion: version, source: 'device', pad: '', conditions: '' },
        null,
      );
      for (let i = 0; i < rows; i++) run.frame(trace.t_s[i]!, frames[i]!);
      entries = run.entries.length;
    },
    () => {
      for (let i = 0; i < rows; i++) read += (JSON.parse(`{"t":${i}}`) as { t: number }).t;
    },
  ]) as [number, number];
  if (entries < 5 || read === 0) throw new Error('nothing was measured');
  return {
    name: 'session: a frame that comes alone, through everything',
    value: (through / rows) * 1e6,
    unit: 'µs',
    wanted: 'at most',
    target: 3,
    remark: `${skerry.channels.length} channels, ${entries} entries in ten minutes; ${(through / parsing).toFixed(1)} x the time to parse {"t":N}`,
  };
}
