export { flyPractice, type PracticeInput, type PracticeRecord, type PracticeRun } from './practice-pilot.ts';
export { type Limiter, OneEnginePractice, type PracticeNow, type PracticeStart } from './one-engine-practice.ts';
