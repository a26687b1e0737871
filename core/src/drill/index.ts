export { type Act, type TimedAct, timedActSchema } from './act.ts';
export { cockpitPlan, isSpot, type PlanZone } from './cockpit-plan.ts';
export { DrillFlight } from './drill-flight.ts';
export type { DrillNote, DrillOptions, FlownDrill } from './flown-drill.ts';
export { flyAgain } from './fly-again.ts';
export { type DoneLine, type DrillView, viewOf } from './drill-view.ts';
export { dueOf, type DueLesson, type Practised } from './due.ts';
export { itemsOfLesson } from './lesson-items.ts';
export { checkLesson, type Criterion, type Lesson, lessonSchema, usualLessons, type WayOfPractice } from './lesson.ts'; // prettier-ignore
export { type CriterionMark, type DrillMarks, marksOf } from './marks.ts';
export type { Loss } from './loss.ts';
export { bestHandOf, type HandStart } from './marks-hand.ts';
export { flyPractice, type PracticeInput, type PracticeRecord, type PracticeRun } from './practice-pilot.ts';
export { type Limiter, OneEnginePractice, type PracticeNow, type PracticeStart } from './one-engine-practice.ts';
export { type Change, whatIf, type WhatIf, withChange } from './what-if.ts';
export { flyAsLearner } from './simulated-learner.ts';
export * from './starts/index.ts';
