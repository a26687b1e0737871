export { featuresOf, type FeatureSpec, START_FEATURES } from './features.ts';
export { brokenHabits, type Compared, compareStart } from './usual.ts';
