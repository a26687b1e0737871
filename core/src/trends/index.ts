export { type Cause, type Finding } from './cause.ts';
export { type Circumstance, CIRCUMSTANCES, type Correction, type DayOfPoint } from './correct.ts';
export { type Course, type Judged, SPEAKS_FROM } from './judge.ts';
export { type Maintenance, MAINTENANCE, MAINTENANCE_WORDS, type Sign, signsOf } from './sign.ts';
export {
  type MaintenanceEvent,
  type SignTrend,
  type TailRecord,
  type TailTrends,
  type TrendCheck,
  type TrendPoint,
  trendsOf,
  type TrendStart,
} from './tail.ts';
