import { utf8ToBytes } from '@noble/hashes/utils.js';
import type { Channel } from '../aircraft/index.ts';
import type { FileHead } from './dialect.ts';
import { isUnitKnown } from './guess.ts';
import type { CsvMapping } from './mapping.ts';
import { BadRow } from './bad-row.ts';
import { RowReader } from './rows.ts';

/** What a mapping makes of the first rows of a file, before the whole of it is read. */
export interface Preview {
  rows: { t_s: number; values: Float64Array }[];
  /** a row that would be refused */
  bad: { row: number; column: string; message: string } | null;
  /** channels whose figures lie outside what their gauge can show: most likely another unit */
  outside: string[];
  repeated: number;
}

/** @throws RangeError for a channel or unit that the type does not have */
export function previewOf(head: FileHead, mapping: CsvMapping, channels: readonly Channel[]): Preview {
  const rows: Preview['rows'] = [];
  const read = { ...mapping, columns: mapping.columns.filter((c) => isUnitKnown(c, channels)) };
  if (mapping.time.format === 'unknown' || read.columns.length === 0)
    return { rows, bad: null, outside: [], repeated: 0 };
  const reader = new RowReader(
    // the rows of a head begin with its first figures, and its lines are counted from there
    { ...read, headerRows: 0, time: { ...mapping.time, start_s: 0 } },
    channels,
    head.names,
    (t_s, values) => {
      rows.push({ t_s, values: values.slice() });
    },
  );
  let bad: Preview['bad'] = null;
  const quote = (field: string): string =>
    field.includes(mapping.separator) || field.includes('"') ? `"${field.replaceAll('"', '""')}"` : field;
  try {
    const text = head.rows
      .slice(mapping.headerRows - head.headerRows)
      .map((row) => row.map(quote).join(mapping.separator));
    reader.push(utf8ToBytes(`${text.join('\n')}\n`));
  } catch (error) {
    if (!(error instanceof BadRow)) throw error;
    bad = { row: error.row + mapping.headerRows, column: error.column, message: error.message };
  }
  // rows before a bad one are shown all the same
  reader.end();
  return {
    rows,
    bad,
    outside: channels.filter((_, i) => reader.beyond[i]! > 0).map((c) => c.id),
    repeated: reader.repeated,
  };
}
