export { type AxisBalance, type Balance, type BalancePoint, type EnvelopeStatus, weightBalance } from './balance.ts';
export { type FuelInput, type FuelPlan, fuelPlan, type ReserveRule } from './fuel-plan.ts';
export {
  basicMassSchema,
  type Envelope,
  envelopeSchema,
  type FuelSystem,
  fuelSystemSchema,
  type LoadedAircraft,
  type LoadItem,
} from './model.ts';
export { type Point, pointInPolygon, type Where } from './polygon.ts';
export { usualMass_kg } from './usual-mass.ts';
