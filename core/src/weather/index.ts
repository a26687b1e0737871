export { parseReport, type Report, type ReportErrorCode, type ReportNote, type ReportWarningCode } from './report.ts';
export { reportTime } from './report-time.ts';
export type { Visibility } from './visibility-group.ts';
export type { Wind } from './wind-group.ts';
export {
  type NorthReference,
  type QuadrantLimits,
  type RotorWind,
  rotorWindLimit,
  type RotorWindLimits,
  type Side,
  SIDES,
  type WindComponents,
  windComponents,
  type WindSide,
  windSide,
} from './wind.ts';
