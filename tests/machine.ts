import os from 'node:os';

/** How many times as long as alone a thing may take: of a machine that has more to do than it has processors, each has its share only. */
export const timesAsLong = (): number => Math.max(1, os.loadavg()[0]! / os.availableParallelism());
