import { z } from 'zod';
import { conditionSchema } from './condition-schema.ts';

/** What must hold before the starter, or the fuel, is turned on. */
const gateSchema = z.strictObject({
  id: z.string(),
  label: z.string(),
  /** judged at the last reading before the starter turns, or when fuel begins to flow */
  at: z.enum(['starter', 'fuel']),
  condition: conditionSchema,
  /** what the type says when it does not hold */
  otherwise: z.string(),
});
export type GateSpec = z.infer<typeof gateSchema>;

const dutySchema = z
  .strictObject({
    /** seconds that the starter may turn, engagement by engagement */
    on_s: z.array(z.number().positive()).min(1),
    /** rest after each of them; the cycle begins anew after the last */
    rest_s: z.array(z.number().positive()).min(1),
  })
  .refine((d) => d.on_s.length === d.rest_s.length, { message: 'on_s and rest_s have one entry per engagement' });
export type StarterDutySpec = z.infer<typeof dutySchema>;

const startBase = {
  id: z.string(),
  /** what is started, as it is said: Engine 2, Auxiliary unit */
  label: z.string(),
  /** the engine that it is; 0 for the auxiliary unit */
  engine: z.int().min(0),
  /** the starter turns while this channel reads more than `onAbove` */
  starter: z.strictObject({ channel: z.string(), onAbove: z.number() }),
  duty: dutySchema,
  gates: z.array(gateSchema),
  /** items that are done once more before another try: prime, volts, captions, area */
  again: z.array(z.string()).optional(),
  crankWithin_s: z.number(),
  crankTo_pct: z.number(),
  oilFirst_bar: z.number(),
  oilFirstWithin_s: z.number(),
  idle_pct: z.tuple([z.number(), z.number()]),
  idleFor_s: z.number(),
  idleWithin_s: z.number(),
  /** faster than this during a start, the engine runs away */
  overspeed_pct: z.number(),
  /** slower than this, with no fuel, the engine has been shut down */
  stoppedBelow_pct: z.number(),
};

/** How much hotter a good start may be, in K, for each step beyond the days that a habit was learned on. */
const wideningSchema = z.strictObject({
  /** each K colder, and warmer */
  colder_K: z.number().min(0),
  warmer_K: z.number().min(0),
  /** each 1,000 ft higher */
  higher_K: z.number().min(0),
  /** each knot more from behind the tailpipe */
  tailwind_K: z.number().min(0),
  /** each K of heat more that was left */
  residual_K: z.number().min(0),
  /** each volt less while it cranks */
  crankVolt_K: z.number().min(0),
});
export type Widening = z.infer<typeof wideningSchema>;

const turbineStartSchema = z.strictObject({
  ...startBase,
  kind: z.literal('turbine'),
  /** whose hand opens the fuel and stops the starter */
  fuelBy: z.enum(['control', 'pilot']),
  channels: z.strictObject({
    speed: z.string(),
    temperature: z.string(),
    volts: z.string(),
    fuelFlow: z.string(),
    /** selector or twist-grip: zero is off, and nothing starts there where the control opens the fuel */
    selector: z.string(),
    outsideAir: z.string(),
    rotor: z.string().optional(),
    oilPressure: z.string().optional(),
    /** one when the fire detector warns */
    fire: z.string().optional(),
    /** how many channels of the digital control are healthy */
    controlChannels: z.string().optional(),
  }),
  /** fuel opened by hand below this speed is early */
  fuelFrom_pct: z.number().optional(),
  /** rise of the indication over its minimum that shows a flame */
  lightRise_K: z.number(),
  lightWithin_s: z.number(),
  rotorMovingBy_pct: z.number().optional(),
  /** how much faster it idles for each 1,000 ft, where nothing governs the idle */
  idleRise_pct_kft: z.number().min(0).optional(),
  starterRelease_pct: z.number(),
  starterReleaseMargin_pct: z.number(),
  hungRate_pct_s: z.number(),
  hungFor_s: z.number(),
  hungBelow_pct: z.number(),
  /**
   * Thermocouple and air-flow figures of the lag-corrected gas temperature. `fuelRise_K`: rise of the gas for each kg/h
   * of fuel, times the share of the full air flow: median of good starts one second after light-off.
   */
  lag: z.strictObject({
    tauRef_s: z.number(),
    tauRatioMax: z.number(),
    flowA0: z.number(),
    fuelRise_K: z.number().positive(),
    /** what share of it the gas has at 30 and at 55 %, on a standard day at sea level: median of good starts */
    heatOfFuel: z.tuple([z.number().positive(), z.number().positive()]).optional(),
  }),
  /** a start this much hotter than the tail's habit is said to be so; wider where the day is another than those it was learned on */
  corridor: z.strictObject({ margin_K: z.number().positive(), widen: wideningSchema }),
});
export type TurbineStart = z.infer<typeof turbineStartSchema>;

const pistonStartSchema = z.strictObject({
  ...startBase,
  kind: z.literal('piston'),
  channels: z.strictObject({
    speed: z.string(),
    volts: z.string(),
    /** positive while the battery is charged */
    batteryAmps: z.string(),
    oilPressure: z.string(),
    magnetos: z.string(),
    outsideAir: z.string(),
    /** how far the mixture is open, and the fuel valve: an engine that gets no fuel does not fire */
    mixture: z.string().optional(),
    fuelValve: z.string().optional(),
  }),
  /** it fires when it turns faster than any starter */
  firesAbove_pct: z.number(),
  firesWithin_s: z.number(),
  /** it runs by itself when it keeps above this without the starter */
  runsAbove_pct: z.number(),
  runsFor_s: z.number(),
  /** the starter must have let go by this speed */
  starterRelease_pct: z.number(),
  chargingAbove_A: z.number(),
  chargingWithin_s: z.number(),
});
export type PistonStart = z.infer<typeof pistonStartSchema>;

/** How an engine start is watched: which channels, which states and deadlines, what is allowed. */
export const startWatchSchema = z.discriminatedUnion('kind', [turbineStartSchema, pistonStartSchema]);
export type StartWatch = z.infer<typeof startWatchSchema>;

/** The run-up to flight: every selector moved, rotor inside its window by a deadline. */
export const runUpWatchSchema = z.strictObject({
  id: z.string(),
  /** selectors, grips or speeds that are at flight when they read at least `flightFrom`, and back at idle below `idleBelow` */
  selectors: z.array(z.string()).min(1),
  flightFrom: z.number(),
  idleBelow: z.number(),
  rotor: z.string(),
  rotor_pct: z.tuple([z.number(), z.number()]),
  steadyFor_s: z.number(),
  within_s: z.number(),
  /** it is flight only while this reads at least so much: a governor that is on */
  flightNeeds: z.strictObject({ channel: z.string(), atLeast: z.number() }).optional(),
  /** torques of the engines in the run-up, and how far they may be apart while they settle and after */
  torque: z
    .strictObject({ channels: z.array(z.string()).min(1), max_pct: z.number(), split_pct: z.number().optional() })
    .optional(),
  /** speeds to pass through, not to stay at: something swings there */
  avoid: z
    .array(
      z.strictObject({
        channel: z.string(),
        between: z.tuple([z.number(), z.number()]),
        longest_s: z.number().positive(),
        why: z.string(),
      }),
    )
    .optional(),
});
export type RunUpWatch = z.infer<typeof runUpWatchSchema>;

const ABORT_REASONS = [
  'hot',
  'going-to-be-hot',
  'hung',
  'no-light',
  'late-light',
  'no-crank',
  'no-oil-pressure',
  'rotor-not-turning',
  'starter-not-releasing',
  'low-volts',
  'slow',
  'died',
  'overspeed',
  'fire',
  'sensor-lost',
  'control-abort',
  'control-fault',
  'pilot',
] as const;
export const abortReasonSchema = z.enum(ABORT_REASONS);
export type AbortReason = z.infer<typeof abortReasonSchema>;
