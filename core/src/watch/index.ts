export { BandMonitor, type BandTable, type Excursion } from './band-monitor.ts';
export {
  type Corridor,
  CORRIDOR_MIN_STARTS,
  type LearnedStart,
  learnCorridor,
  quantile,
  type StartProfile,
} from './corridor.ts';
export type { CueSeverity, Exceedance, StartRecord, StartState, WatchEvent } from './events.ts';
export { limitMonitor, type MonitorInput } from './limit-monitor.ts';
export type { Milestone } from './milestone.ts';
export { type NextTry, nextTry } from './next-try.ts';
export { rateMonitor, type RateInput } from './rate-monitor.ts';
export { type GateSnapshot, limitPhase, snapshotOf, type StartSnapshot, type WatchSnapshot } from './snapshot.ts';
export { sayUnseen } from './seen.ts';
export { type EnginePhase } from './start-machine.ts';
export { type Corridors, SOURCE_LOST_AFTER_S, Watch } from './watch.ts';
