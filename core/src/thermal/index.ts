export { batteryCold, type ColdBattery, oilViscosity } from './battery.ts';
export {
  batteryModelSchema,
  type CrankedAircraft,
  crankModelSchema,
  type OilModel,
  oilModelSchema,
  type WarmupModel,
  warmupModelSchema,
} from './model.ts';
export { oilPressureExpect, oilPressureLearn, type OilPressureModel } from './oil-pressure.ts';
export { type Warmup, warmupPredict } from './warmup.ts';
export {
  forecastWarmup,
  OTHER_AIR,
  type PastWarmup,
  type WarmCurve,
  type WarmForecast,
  type WarmReadings,
  warmupIn,
} from './warmup-history.ts';
export { carburettorIcing, type Icing } from './carburettor-icing.ts';
