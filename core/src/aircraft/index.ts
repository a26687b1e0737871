export { type Channel, decimalsOf, sayValue } from './channel.ts';
export type { ChannelTest, Condition } from './condition-schema.ts';
export { channelsOf, holds, sayCondition, Sensed, type Verdict } from './condition.ts';
export { bandEdge, type Limit, type LimitBand, type Phase, PHASES, type Severity } from './limits.ts';
export type { Item, StandInAction } from './procedure-items.ts';
export type {
  ElectricalParameters,
  EngineParameters,
  RotorParameters,
  SimulatorParameters,
} from './simulator-parameters.ts';
export { type Caption, type StandInPreset, type TypeFile, typeFileJsonSchema, typeFileSchema } from './type-file.ts';
export { ABORT_REASONS, type AbortReason, abortReasonSchema, type RunUpWatch, type StartWatch } from './watches.ts';
