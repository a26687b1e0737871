export {
  type Currents,
  type LearnedLoad,
  loadSteps,
  type LoadStep,
  type StepVerdict,
  type SwitchEvent,
} from './load-steps.ts';
export { type Unexplained, unexplainedSteps } from './unexplained.ts';
