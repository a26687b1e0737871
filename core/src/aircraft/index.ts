export type { Channel } from './channel.ts';
export { holdSeconds, stagesOf } from './item-facts.ts';
export { believable, decimalsOf, sayValue } from './readings.ts';
export { type CockpitControl, leverEnds, RESERVED_KEYS } from './cockpit.ts';
export type { ChannelTest, Condition } from './condition-schema.ts';
export { channelsOf, holds, sayCondition, Sensed, type Verdict } from './condition.ts';
export { bandEdge, type Limit, type LimitBand, type Phase, PHASES, type Severity } from './limits.ts';
export {
  abortPlanSchema,
  type Item,
  ITEM_KINDS,
  itemSchema,
  legSchema,
  type ItemKind,
  type When,
} from './procedure-items.ts';
export { type LedgerSpec, type OneEngineSpec, ratingsSchema } from './ratings.ts';
export type {
  AirStarterParameters,
  AuxiliaryParameters,
  DigitalParameters,
  ElectricalParameters,
  InertialParameters,
  LimitSet,
  ManualParameters,
  OneEngineRatings,
  RotorParameters,
  SimulatorParameters,
  TurbineParameters,
} from './simulator-parameters.ts';
export { type StandInAction, standInActionSchema } from './stand-in.ts';
export {
  channelsOfCheck,
  type FigureSpec,
  type Finding,
  type Quantity,
  type Stage,
  stageSchema,
  type TraceCheck,
  traceCheckSchema,
} from './trace-check.ts';
export type { PistonParameters } from './piston-parameters.ts';
export {
  type Caption,
  type StandInPreset,
  standInPresetSchema,
  type TypeFile,
  typeFileJsonSchema,
  typeFileSchema,
  typeHeadSchema,
} from './type-file.ts';
export { TypeParts } from './type-parts.ts';
export { isPiston, isWatched, needWatched, type WatchedType } from './watched-type.ts';
export {
  type AbortReason,
  abortReasonSchema,
  type GateSpec,
  type PistonStart,
  type RunUpWatch,
  runUpWatchSchema,
  type StarterDutySpec,
  type StartWatch,
  startWatchSchema,
  type TurbineStart,
  type Widening,
} from './watches.ts';
export {
  type Choice,
  choiceSchema,
  isAsked,
  type EngineFirst,
  type Method,
  turnRoundSchema,
  type Ways,
} from './ways.ts';
export { loadingSchema, performanceSchema, type Station, thermalSchema, windSchema } from './airframe.ts';
export { pistonOf, poweredOf } from './powered.ts';
export { diffTypes, type TypeChange } from './type-diff.ts';
export { bandWords } from './limits.ts';
export { type Outline, type Plan, PLAN_SIZE, planSchema } from './plan.ts';
