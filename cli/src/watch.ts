import fs from 'node:fs';
import { type Phase, PHASES, type WatchedType } from '@rouse/core/aircraft';
import { readCsv } from '@rouse/core/format';
import {
  BadRow,
  csvMappingSchema,
  encodingOf,
  headOf,
  isSheet,
  RecordingWatch,
  RowReader,
  sheetAsCsv,
} from '@rouse/core/replay';
import { BadInput, check } from './bad-input.ts';
import { findWatchedType, readJson, readText } from './files.ts';

interface WatchOptions {
  type?: string;
  csv?: string;
  phase?: string;
  mapping?: string;
}

/**
 * `watch --type T --csv F.csv [--phase start] [--mapping M.json]`: what the watch would have reported, one event a line.
 * With a mapping the file is one that another recorder wrote: it is read as it comes, in memory that does not grow.
 */
export async function watch(options: WatchOptions, print: (line: unknown) => void): Promise<void> {
  if (!options.type) throw new BadInput('MISSING', 'watch needs --type, the id of a type or its file', 'type');
  if (!options.csv) throw new BadInput('MISSING', 'watch needs --csv, a trace', 'csv');
  const phase = PHASES.find((p) => p === options.phase);
  if (options.phase !== undefined && !phase)
    throw new BadInput('BAD_OPTION', `there is no phase ${options.phase}; there is ${PHASES.join(', ')}`, 'phase');
  const type = findWatchedType(options.type);
  const recording = new RecordingWatch(type, print, phase as Phase | undefined);
  if (options.mapping === undefined) ofOurs(type, options.csv, recording);
  else await foreign(type, options.csv, options.mapping, recording);
  recording.finish();
}

function ofOurs(type: WatchedType, file: string, recording: RecordingWatch): void {
  const csv = readCsv(readText(file), type.channels);
  if (!csv.ok) throw new BadInput('BAD_CSV', csv.message, `row ${csv.row}${csv.column ? `, ${csv.column}` : ''}`);
  const { t_s, columns } = csv.trace;
  const values = new Float64Array(columns.length);
  for (let i = 0; i < t_s.length; i++) {
    for (let c = 0; c < columns.length; c++) values[c] = columns[c]![i]!;
    recording.row(t_s[i]!, values);
  }
}

const CHUNK_BYTES = 1024 * 1024;
const HEAD_BYTES = 64 * 1024;

/** A file as it comes; a packed sheet as the table that it holds. */
async function* bytesOf(file: string): AsyncGenerator<Uint8Array> {
  let first = true;
  for await (const chunk of fs.createReadStream(file, { highWaterMark: CHUNK_BYTES }) as AsyncIterable<Buffer>) {
    if (first && isSheet(chunk)) {
      yield Buffer.from(await sheetAsCsv(Uint8Array.from(fs.readFileSync(file)).buffer));
      return;
    }
    first = false;
    yield chunk;
  }
}

async function foreign(type: WatchedType, file: string, mappingFile: string, recording: RecordingWatch): Promise<void> {
  const mapping = check(csvMappingSchema, readJson(mappingFile), mappingFile);
  try {
    let reader: RowReader | null = null;
    for await (const bytes of bytesOf(file)) {
      reader ??= new RowReader(mapping, type.channels, namesIn(bytes, file), (t_s, v) => recording.row(t_s, v));
      reader.push(bytes);
    }
    if (!reader) throw new BadInput('BAD_CSV', 'the file is empty', file);
    reader.end();
  } catch (error) {
    if (error instanceof BadRow)
      throw new BadInput('BAD_CSV', error.message, `row ${error.row}${error.column ? `, ${error.column}` : ''}`);
    if (error instanceof RangeError) throw new BadInput('BAD_MAPPING', error.message, mappingFile);
    if (error instanceof Error && 'syscall' in error)
      throw new BadInput('NO_FILE', `cannot read ${file}: ${error.message}`, file);
    throw error;
  }
}

function namesIn(bytes: Uint8Array, file: string): string[] {
  const start = bytes.subarray(0, HEAD_BYTES);
  const encoding = encodingOf(start);
  if (encoding.startsWith('utf-16')) throw new BadInput('BAD_CSV', 'a UTF-16 file is not read; save it as UTF-8', file);
  return headOf(new TextDecoder(encoding).decode(start), encoding).names;
}
