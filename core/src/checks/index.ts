export type { Situation } from './situation.ts';
export { CheckMachine, type CheckResult, type CheckSnapshot } from './check-machine.ts';
export { type CheckVerdict, type FigureResult, sayFigure } from './finding.ts';
