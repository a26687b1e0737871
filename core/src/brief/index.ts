export { briefOf } from './brief.ts';
export { windOf } from './day.ts';
export type { ExpectedStart } from './expected-start.ts';
export { type Figure, known } from './figure.ts';
export { type ReadReport, readReport, type ReportNoteInWords } from './from-report.ts';
export {
  type BriefContext,
  type BriefInput,
  briefInputSchema,
  emptyBrief,
  operatorWay,
  type Neighbour,
  NO_WIND,
} from './input.ts';
export { simulatedDay } from './simulated-day.ts';
export { type StartOrder, startOrder } from './start-order.ts';
export { type WeightCurves, weightCurves } from './weight-curves.ts';
export type { Brief, Hold, NeighbourWash } from './result.ts';
