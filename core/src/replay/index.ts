export { type Encoding, encodingOf, type FileHead, headOf } from './dialect.ts';
export { guessMapping, headerKey } from './guess.ts';
export {
  type CsvMapping,
  csvMappingSchema,
  type MappedColumn,
  TIME_FORMATS,
  type TimeFormat,
  unitsFor,
} from './mapping.ts';
export { BadRow, RowReader } from './rows.ts';
export { type Place, placeBefore, Scan, type Scanned } from './scan.ts';
export { type Preview, previewOf } from './preview.ts';
