export { featuresOf, type FeatureSpec } from './features.ts';
export {
  type EngineMargin,
  latestMargin,
  learnCheckHabit,
  learnHoverOffset,
  type PastCheck,
  type UsualFigure,
  usualFigures,
} from './checks.ts';
export {
  brokenHabits,
  type Compared,
  compareStart,
  isWorse,
  type AgainstUsual,
  againstUsual,
  type Usual,
} from './usual.ts';
export { type RobustBaseline, robustBaseline } from './trend/baseline.ts';
export { type BatteryResistance, batteryResistance, batteryResistanceSeries } from './trend/battery-resistance.ts';
export { type ChangePoint, changePoint } from './trend/changepoint.ts';
export { cusum, ewma } from './trend/control-charts.ts';
export { type Forecast, forecast } from './trend/forecast.ts';
export { checkedNormalQuantile, checkedStudentQuantile } from './trend/quantiles.ts';
export { type LeastSquares, leastSquares, theilSen } from './trend/regression.ts';
