// Loaded into a program that is measured (node --import): tells its parent how late its event loop is, and how large it is.
import { monitorEventLoopDelay } from 'node:perf_hooks';

const EVERY_MS = 10_000;
const RESOLUTION_MS = 5;
const lately = monitorEventLoopDelay({ resolution: RESOLUTION_MS });
const everSince = monitorEventLoopDelay({ resolution: RESOLUTION_MS });
lately.enable();
everSince.enable();
// the delay counts from the tick that was asked for, so a punctual loop shows its resolution
const p99_ms = (delay) => delay.percentile(99) / 1e6 - RESOLUTION_MS;
setInterval(() => {
  const { heapUsed, external, rss } = process.memoryUsage();
  const used_MB = (heapUsed + external) / 1e6;
  process.send?.({ probe: { p99_ms: p99_ms(lately), whole_p99_ms: p99_ms(everSince), used_MB, rss_MB: rss / 1e6 } });
  lately.reset();
}, EVERY_MS).unref();
