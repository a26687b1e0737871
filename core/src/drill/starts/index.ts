export { decide, type Decided, FULL, nextDifficulty, SHOWN_S, STARTS_A_ROUND, sumOf } from './abort-or-go.ts';
export { type BadDays, type Deal, dealStart } from './deal.ts';
export { DealtStart } from './dealt-start.ts';
export { badDaysOf, type StartTruth, truthOf } from './truth.ts';
