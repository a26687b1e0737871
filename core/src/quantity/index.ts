export { convert } from './convert.ts';
export {
  attempt,
  isRefusal,
  needNumber,
  needOption,
  numberOr,
  type Refusal,
  type RefusalCode,
  Refused,
} from './refused.ts';
export { type FigureKind, roundConservative, type RoundDirection, roundStep } from './rounding.ts';
