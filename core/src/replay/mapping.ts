import { z } from 'zod';
import { convert } from '../quantity/index.ts';

/** How the time column of a file is written; unknown until somebody has chosen it. */
export const TIME_FORMATS = ['seconds', 'milliseconds', 'clock', 'date-time', 'days', 'rows', 'unknown'] as const;
export type TimeFormat = (typeof TIME_FORMATS)[number];

const columnSchema = z.strictObject({
  /** place of the column in the file, from 0 */
  column: z.int().min(0),
  channel: z.string(),
  /** unit of the file, one of `unitsFor` the channel; empty until somebody has chosen it */
  unit: z.string(),
  /** what the file's figure is multiplied by before its unit is converted */
  scale: z.number().refine((v) => v !== 0, { message: 'is not zero' }),
});
export type MappedColumn = z.infer<typeof columnSchema>;

/** How a recorded file is read into the channels of a type: made once, and kept for files with the same header. */
export const csvMappingSchema = z.strictObject({
  /** a blank stands for columns that are aligned by blanks */
  separator: z.enum([',', ';', '\t', '|', ' ']),
  decimal: z.enum(['.', ',']),
  /** rows before the first row of figures: titles, names, units */
  headerRows: z.int().min(0).max(50),
  time: z.strictObject({
    format: z.enum(TIME_FORMATS),
    /** place of the time column; unused where rows come at an even rate */
    column: z.int().min(0),
    /** rows a second, where no column tells the time */
    rate_Hz: z.number().positive().max(1000),
    /** seconds of the file that the run begins at, from its first row */
    start_s: z.number().min(0),
  }),
  columns: z.array(columnSchema).min(1),
  /** lines that begin with this are no rows */
  comment: z.string().min(1).max(8).optional(),
  /** what this file writes for no reading, beside the usual words: -999, **** */
  missing: z.array(z.string().min(1).max(20)).max(20).optional(),
  /** how long a column that is not written in every row keeps its last figure */
  hold_s: z.number().min(0).max(60).optional(),
});
export type CsvMapping = z.infer<typeof csvMappingSchema>;

interface UnitChoice {
  id: string;
  /** value in the channel's unit = figure × scale + offset */
  scale: number;
  offset: number;
}

const same = (id: string): UnitChoice => ({ id, scale: 1, offset: 0 });

/** A unit of the file against the channel's, by the table of units. */
function converted(id: string, from: string, to: string): UnitChoice {
  const offset = convert(0, from, to);
  return { id, scale: convert(1, from, to) - offset, offset };
}

const CHOICES: Readonly<Record<string, readonly UnitChoice[]>> = {
  '°C': [same('°C'), converted('°F', 'F', 'C'), converted('K', 'K', 'C')],
  bar: [same('bar'), ...['psi', 'kPa', 'hPa'].map((id) => converted(id, id, 'bar'))],
  inHg: [same('inHg'), ...['hPa', 'kPa'].map((id) => converted(id, id, 'inHg'))],
  '%': [same('%'), { id: 'fraction', scale: 100, offset: 0 }],
  'kg/h': [
    same('kg/h'),
    { id: 'lb/h', scale: convert(1, 'lb', 'kg'), offset: 0 },
    { id: 'g/s', scale: 3.6, offset: 0 },
  ],
  V: [same('V'), { id: 'mV', scale: 0.001, offset: 0 }],
  A: [same('A'), { id: 'mA', scale: 0.001, offset: 0 }],
};

/** The units in which a file may write a channel of this unit, the channel's own first. */
export function unitsFor(channelUnit: string): readonly UnitChoice[] {
  return CHOICES[channelUnit] ?? [same(channelUnit)];
}
