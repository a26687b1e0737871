export { type Allowed, allowedToday, type DayAllows, type Nearness } from './allows.ts';
export { briefOf } from './brief.ts';
export { windOf } from './day.ts';
export type { ExpectedStart } from './expected-start.ts';
export { type Figure, known } from './figure.ts';
export { type ReadReport, readReport, type ReportNoteInWords } from './from-report.ts';
export { type BriefInput, briefInputSchema } from './input-schema.ts';
export {
  type BriefContext,
  contextAlone,
  type DueSoon,
  emptyBrief,
  operatorWay,
  type Neighbour,
  NO_WIND,
} from './input.ts';
export { simulatedBrief, simulatedDay } from './simulated-day.ts';
export { type StartOrder, startOrder } from './start-order.ts';
export { type WeightCurves, weightCurves } from './weight-curves.ts';
export type { Brief, Objection, NeighbourWash } from './result.ts';
