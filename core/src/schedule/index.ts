export { type BestOrder, bestOrder, largestDeliveryFirst } from './best-order.ts';
export {
  type DurationPrior,
  type Lognormal,
  type LognormalFit,
  lognormalFit,
  lognormalRemaining,
  type Remaining,
} from './durations.ts';
export { generatorSequence } from './generator.ts';
export { type CriticalPath, criticalPath, type Step } from './network.ts';
export { type UncertainPlan, uncertainPlan } from './uncertain.ts';
