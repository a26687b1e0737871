export { whyNotBrought } from './brought.ts';
export { type Acceptance, samePayload } from './acceptance.ts';
export { anotherTry, type Around } from './another-try.ts';
export {
  canonicalJson,
  chainEntries,
  type ChainFault,
  checkChain,
  digestOf,
  digestOfBytes,
  type Draft,
  hashOf,
} from './chain.ts';
export {
  type BriefRecord,
  type Entry,
  type ExceedanceEntry,
  type MeasuredEntry,
  parseEntry,
  type Payload,
  payloadSchema,
  type Stamp,
  OUTCOMES,
  type RunOutcome,
  type Source,
  SOURCES,
} from './entries.ts';
export { estimateWait, type WaitEstimate } from './estimate.ts';
export { type Ask, expectedFigure, type Quantity } from './kinds/kind.ts';
export { askOf, rightAnswer } from './kinds/registry.ts';
export { acceptFromPilot } from './judge.ts';
export { type CaptionCount, conditionOf, readCondition, readItem, type Reading } from './reading.ts';
export {
  abortPlan,
  standInActions,
  isBackground,
  isPuttingBack,
  isReachable,
  isShuttingDown,
  legsAhead,
  noGoFaults,
  notDone,
  type OpenLoop,
  procedureOf,
  stagesDone,
  openBefore,
  stillOpen,
  toPutBack,
  wayOf,
  workingList,
} from './list.ts';
export {
  closingOutcome,
  differences,
  type FlowZone,
  isFinished,
  lateItems,
  legSpans,
  type LegSpan,
  type LegState,
  meanwhileItems,
  nextItems,
  passage,
  presentFlow,
  presentItem,
  twoCrewTurn,
  wasFlowed,
  zonesOf,
} from './plan.ts';
export { type AtHand, atHandNow, workOut } from './at-hand.ts';
export { startAir } from './situation-now.ts';
export { briefedWind, rotorWindNow, type RotorWindNow, windPhaseOf } from './rotor-wind.ts';
export { hoverAgainstLimit, type HoverFigure, type PowerNow, powerNow, sayPower } from './power-now.ts';
export { finalScan, notReadyBecause, type ScanLine } from './final-scan.ts';
export { burned_kg, massNow_kg } from './weight-now.ts';
export type { WindNow } from './wind-now.ts';
export { type Learned, NOTHING_LEARNED } from './check-desk.ts';
export { type Dwell, Runner } from './runner.ts';
export {
  durationOf,
  offeredItems,
  type PastWait,
  type PlannedItem,
  type RunSchedule,
  type ScheduleInput,
  scheduleOf,
  waitsOf,
} from './schedule.ts';
export { type Abort, findItem, itemState, type ItemState, type Measured, reduceRun, type RunState } from './state.ts';
export { warmTargets } from './warm-targets.ts';
export { begunAt_s, forecastWait, pastWaitsOf } from './warm-waits.ts';
export { ruledAnswer } from './decision-rule.ts';
export { chartAir } from './chart-air.ts';
export { chartLimitsOf, entriesOfRating, type HeldEntry, isHeld, type RatingEntry } from './rating-entries.ts';
export { type EntryWords, sayClock, sayEntry } from './words.ts';
export { type HandMoment, type HandStart, handStart } from './hand-timed.ts';
