export { featuresOf, type FeatureSpec, START_FEATURES } from './features.ts';
export { learnLoads, type PastCheck, type UsualFigure, usualFigures } from './checks.ts';
export { brokenHabits, type Compared, compareStart, isWorse, type Place, placeOf, type Usual } from './usual.ts';
