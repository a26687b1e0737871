import { gzipSync } from 'node:zlib';
import { writeCsv } from '@rouse/core/format';
import { encodeChunk, type Trace } from '@rouse/core/trace';
import { type Line, skerry, TWENTY } from './measure.ts';

/** A ten-minute run at 50 Hz, 20 channels: our chunk against its gzipped CSV. */
export function codec(trace: Trace): Line {
  const places = TWENTY.map((c) => skerry.channels.indexOf(c));
  const twenty: Trace = {
    channels: TWENTY.map((c) => c.id),
    t_s: trace.t_s,
    columns: places.map((k) => trace.columns[k]!),
  };
  const chunk = encodeChunk(
    twenty,
    TWENTY.map((c) => c.resolution),
  ).length;
  const csv = gzipSync(writeCsv(twenty, TWENTY), { level: 9 }).length;
  return {
    name: 'codec: ten minutes at 50 Hz, 20 channels',
    value: (100 * chunk) / csv,
    unit: '% of gzipped CSV',
    wanted: 'at most',
    target: 40,
    remark: `${chunk} against ${csv} bytes`,
  };
}
