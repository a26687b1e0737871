export { flyPractice, type PracticeInput, type PracticeRun } from './practice-pilot.ts';
export { rightAnswer } from './right-answer.ts';
