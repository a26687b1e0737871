// Loaded into a program that is measured (node --import): tells its parent how late its event loop is, and how large it is.
import { monitorEventLoopDelay } from 'node:perf_hooks';

const EVERY_MS = 10_000;
const delay = monitorEventLoopDelay({ resolution: 5 });
delay.enable();
setInterval(() => {
  // the delay counts from the tick that was asked for, so a punctual loop shows its resolution
  process.send?.({ probe: { p99_ms: delay.percentile(99) / 1e6 - 5, rss_MB: process.memoryUsage.rss() / 1e6 } });
  delay.reset();
}, EVERY_MS).unref();
