export { BandMonitor, type BandTable, type Stay } from './band-monitor.ts';
export {
  BINS,
  type Corridor,
  CORRIDOR_MIN_STARTS,
  type LearnedStart,
  learnCorridor,
  quantile,
  type StartProfile,
} from './corridor.ts';
export type { CueSeverity, Exceedance, StartRecord, StartState, WatchEvent } from './events.ts';
export { limitMonitor, type MonitorInput } from './limit-monitor.ts';
export { rateMonitor, type RateInput } from './rate-monitor.ts';
export { type Milestone, snapshotOf, type WatchSnapshot } from './snapshot.ts';
export { SOURCE_LOST_AFTER_S, Watch } from './watch.ts';
