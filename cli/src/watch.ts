import { type Phase, PHASES } from '@rouse/core/aircraft';
import { readCsv } from '@rouse/core/format';
import { Watch } from '@rouse/core/watch';
import { BadInput } from './bad-input.ts';
import { findWatchedType, readText } from './files.ts';

/** `watch --type T --csv F.csv [--phase start]`: what the watch would have reported, one event a line. */
export function watch(options: { type?: string; csv?: string; phase?: string }, print: (line: unknown) => void): void {
  if (!options.type) throw new BadInput('MISSING', 'watch needs --type, the id of a type or its file', 'type');
  if (!options.csv) throw new BadInput('MISSING', 'watch needs --csv, a trace', 'csv');
  const phase = PHASES.find((p) => p === options.phase);
  if (options.phase !== undefined && !phase)
    throw new BadInput('BAD_OPTION', `there is no phase ${options.phase}; there is ${PHASES.join(', ')}`, 'phase');
  const type = findWatchedType(options.type);
  const csv = readCsv(readText(options.csv), type.channels);
  if (!csv.ok) throw new BadInput('BAD_CSV', csv.message, `row ${csv.row}${csv.column ? `, ${csv.column}` : ''}`);
  const watcher = new Watch(type, {}, (event) => print(event), phase as Phase | undefined);
  watcher.replay(csv.trace);
  watcher.finish(csv.trace.t_s[csv.trace.t_s.length - 1] ?? 0);
}
