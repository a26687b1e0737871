export {
  type AssuranceMargin,
  assuranceMargin,
  correctEngine,
  type PowerPoint,
  type ReferredPoint,
} from './assurance.ts';
export { JUST_MEETS_C, wornBy } from './wear.ts';
export { powerAvailable, type PowerAvailable, type PowerLimiter } from './available.ts';
export { hoverCeiling, hoverMargin, type HoverMargin, maxHoverMass, type MaxHoverMass } from './capability.ts';
export { hoverCheck, type HoverCheck, type HoverCheckBands } from './hover-check.ts';
export { groundEffect, hoverPower, type HoverPower } from './hover-power.ts';
export {
  LOW_HOVER_ft,
  type Air,
  type AssuranceBaseline,
  type EnginePower,
  enginePowerSchema,
  type HoverModel,
  hoverModelSchema,
  OEI_RATINGS,
  type OeiRatingId,
  type PoweredAircraft,
  type RatingId,
} from './model.ts';
export {
  AFTER_FAILURE,
  type OeiMargin,
  type OeiMass,
  oeiMasses,
  type OeiRequired,
  oeiRequiredRating,
  oeiVerdict,
  type OeiVerdict,
} from './one-engine.ts';
export {
  fullThrottle_inHg,
  type PistonAircraft,
  pistonHover,
  type PistonHover,
  pistonMass,
  type PistonPower,
  pistonPowerSchema,
} from './piston.ts';
export { type BoardInput, type BoardLine, type OneEngineBoard, oneEngineBoard } from './one-engine-board.ts';
