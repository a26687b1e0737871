export { flyPractice, type PracticeInput, type PracticeRun } from './practice-pilot.ts';
