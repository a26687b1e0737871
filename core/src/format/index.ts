export { type BundleRun, type BundleVerdict, verifyBundle, writeBundle } from './bundle.ts';
export { readCsv, csvTable, writeCsv } from './csv.ts';
export { DeviceLineReader, type LineFault, writeDeviceLine } from './device-line.ts';
export { type DeviceFormat, DeviceReader } from './device-reader.ts';
export { LineQuality, type Quality } from './line-quality.ts';
export { checksumOf, NmeaReader, type SentenceFault, writeNmeaFrame } from './nmea.ts';
