export { type BundleRun, type BundleVerdict, verifyBundle, writeBundle } from './bundle.ts';
export { readCsv, writeCsv } from './csv.ts';
export { DeviceLineReader, type LineFault, writeDeviceLine } from './device-line.ts';
