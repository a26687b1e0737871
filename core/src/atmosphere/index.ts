export {
  airRatios,
  type AirRatios,
  altimeterReading_ft,
  densityAltitude,
  type DensityAltitude,
  pressureAltitude,
  type PressureAltitude,
} from './altitude.ts';
export { FT_m, G0, isa, isaInverse, K0, T0_K } from './standard.ts';
