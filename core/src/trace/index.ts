export { decodeChunk, encodeChunk } from './codec.ts';
export { columnOf, emptyTrace, joinTraces, rowAt, rowInto, type Trace, TraceBuilder } from './columns.ts';
export { decimate } from './decimate.ts';
