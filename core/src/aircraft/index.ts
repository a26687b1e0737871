export { type Channel, decimalsOf, sayValue } from './channel.ts';
export type { ChannelTest, Condition } from './condition-schema.ts';
export { channelsOf, holds, sayCondition, Sensed, type Verdict } from './condition.ts';
export { bandEdge, type Limit, type LimitBand, type Phase, PHASES, type Severity } from './limits.ts';
export { holdSeconds, type Item, type ItemKind, stagesOf, type When } from './procedure-items.ts';
export type { LedgerSpec, OneEngineSpec } from './ratings.ts';
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
  type TraceCheck,
} from './trace-check.ts';
export type { PistonParameters } from './piston-parameters.ts';
export { type Caption, type StandInPreset, type TypeFile, typeFileJsonSchema, typeFileSchema } from './type-file.ts';
export { isPiston, isWatched, needWatched, outsideAirChannel, type WatchedType } from './watched-type.ts';
export {
  type AbortReason,
  abortReasonSchema,
  type GateSpec,
  type PistonStart,
  type RunUpWatch,
  type StarterDutySpec,
  type StartWatch,
  type TurbineStart,
} from './watches.ts';
export { type Choice, isAsked, type EngineFirst, type Method, type Ways } from './ways.ts';
export type { Station } from './airframe.ts';
export { pistonOf, poweredOf } from './powered.ts';
export { diffTypes, type TypeChange } from './type-diff.ts';
export { bandWords } from './limits.ts';
