export { featuresOf, type FeatureSpec, START_FEATURES } from './features.ts';
export { brokenHabits, type Compared, compareStart, isWorse } from './usual.ts';
