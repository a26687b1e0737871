export { type Encoding, encodingOf, type FileHead, headOf } from './dialect.ts';
export { guessMapping, headerKey, type Unsure, unitToBegin, unsureOf } from './guess.ts';
export { keepRecording, type KeptAs, type KeptRecording, type RecordedFile } from './kept.ts';
export { beganAt_ms } from './recorded-day.ts';
export {
  type CsvMapping,
  csvMappingSchema,
  type MappedColumn,
  TIME_FORMATS,
  type TimeFormat,
  unitsFor,
} from './mapping.ts';
export { BadRow } from './bad-row.ts';
export { type RecordingEvent, RecordingWatch } from './recording.ts';
export { RowReader } from './rows.ts';
export { type FilePosition, positionBefore, Scan, type Scanned } from './scan.ts';
export { type Preview, previewOf } from './preview.ts';
export { isSheet, sheetAsCsv } from './sheet.ts';
export { type TriedCall, type TriedStart, tryStart } from './tried.ts';
