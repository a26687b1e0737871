import { z } from 'zod';

/** How an engine start is watched: which channels, which states and deadlines, what is allowed. */
export const startWatchSchema = z.strictObject({
  id: z.string(),
  engine: z.int().min(1),
  channels: z.strictObject({
    speed: z.string(),
    temperature: z.string(),
    rotor: z.string(),
    oilPressure: z.string(),
    volts: z.string(),
    starterAmps: z.string(),
    fuelFlow: z.string(),
    selector: z.string(),
    outsideAir: z.string(),
  }),
  /** the starter is turning when it draws more than this */
  starterOn_A: z.number(),
  /** rise of the indication over its minimum that shows a flame */
  lightRise_K: z.number(),
  lightWithin_s: z.number(),
  crankWithin_s: z.number(),
  crankTo_pct: z.number(),
  rotorMovingBy_pct: z.number(),
  oilFirst_bar: z.number(),
  oilFirstWithin_s: z.number(),
  starterRelease_pct: z.number(),
  starterReleaseMargin_pct: z.number(),
  idle_pct: z.tuple([z.number(), z.number()]),
  idleFor_s: z.number(),
  idleWithin_s: z.number(),
  hungRate_pct_s: z.number(),
  hungFor_s: z.number(),
  hungBelow_pct: z.number(),
  /** thermocouple and air-flow figures of the lag-corrected gas temperature */
  lag: z.strictObject({ tauRef_s: z.number(), tauRatioMax: z.number(), flowA0: z.number() }),
  corridor: z.strictObject({ indicationMargin_K: z.number(), gasMargin_K: z.number(), samples: z.int() }),
  starterDuty: z.strictObject({ on1_s: z.number(), off1_s: z.number(), on2_s: z.number(), off2_s: z.number() }),
});
export type StartWatch = z.infer<typeof startWatchSchema>;

/** The run-up to flight: selector moved, rotor inside its window by a deadline. */
export const runUpWatchSchema = z.strictObject({
  id: z.string(),
  selector: z.string(),
  flightPosition: z.number(),
  rotor: z.string(),
  rotor_pct: z.tuple([z.number(), z.number()]),
  steadyFor_s: z.number(),
  within_s: z.number(),
});
export type RunUpWatch = z.infer<typeof runUpWatchSchema>;

export const ABORT_REASONS = [
  'hot',
  'going-to-be-hot',
  'hung',
  'no-light',
  'no-crank',
  'no-oil-pressure',
  'rotor-not-turning',
  'starter-not-releasing',
  'low-volts',
  'slow',
  'sensor-lost',
  'control-abort',
  'pilot',
] as const;
export const abortReasonSchema = z.enum(ABORT_REASONS);
export type AbortReason = z.infer<typeof abortReasonSchema>;
