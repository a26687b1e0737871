export { type CheckHabit, NO_HABIT } from './figure-source.ts';
export type { Situation } from './situation.ts';
export { CheckMachine, type CheckResult, type CheckSnapshot } from './check-machine.ts';
export { type CheckVerdict, type FigureResult, sayFigure } from './finding.ts';
