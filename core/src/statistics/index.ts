export { higherOf, lowerOf } from './extremes.ts';
export { median, MEDIAN_EFFICIENCY, spreadOf } from './medians.ts';
export { normalQuantile, normalTail } from './normal.ts';
export { solve } from './solve.ts';
export { studentQuantile } from './student.ts';
