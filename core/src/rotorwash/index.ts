export {
  downwash,
  type Downwash,
  outwash,
  type Outwash,
  safeSeparation,
  type Separation,
  type WashingAircraft,
} from './wash.ts';
