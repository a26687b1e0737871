export { chunkBody, chunkOf, decodeChunk, decodeChunks, encodeChunk } from './codec.ts';
export { columnOf, joinTraces, rowAt, rowInto, type Trace, TraceBuilder } from './columns.ts';
export { decimate } from './decimate.ts';
export { type Stretch, thin } from './thin.ts';
