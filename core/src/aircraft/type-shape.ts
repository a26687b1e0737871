import { z } from 'zod';
import { planSchema } from './plan.ts';
import { channelSchema } from './channel.ts';
import { cockpitControlSchema } from './cockpit.ts';
import { conditionSchema } from './condition-schema.ts';
import { loadingSchema, performanceSchema, thermalSchema, transducerSchema, windSchema } from './airframe.ts';
import { limitSchema } from './limits.ts';
import { abortPlanSchema, itemSchema, legSchema } from './procedure-items.ts';
import { standInTestSchema } from './stand-in.ts';
import { pistonParametersSchema } from './piston-parameters.ts';
import { ratingsSchema } from './ratings.ts';
import { simulatorParametersSchema } from './simulator-parameters.ts';
import { abortReasonSchema, runUpWatchSchema, startWatchSchema } from './watches.ts';
import { choiceSchema, equipmentSchema, turnRoundSchema } from './ways.ts';

const captionSchema = z.strictObject({
  id: z.string(),
  label: z.string(),
  /** place in the caption channel's number, from 0 */
  bit: z.int().min(0).max(30),
  severity: z.enum(['note', 'caution', 'warning']),
  /** when the simulated panel lights it */
  lit: conditionSchema,
});
export type Caption = z.infer<typeof captionSchema>;

export const standInPresetSchema = z.strictObject({
  id: z.string(),
  label: z.string(),
  note: z.string(),
  init: z.record(z.string(), z.number()),
  env: z.record(z.string(), z.number()),
  /** faults, in the event language of scenario files */
  faults: z.array(
    z.strictObject({
      when: standInTestSchema.optional(),
      set: z.record(z.string(), z.union([z.number(), z.string()])),
    }),
  ),
});
export type StandInPreset = z.infer<typeof standInPresetSchema>;

/**
 * What programs need to know of a type, by the channel that it is: a screen asks for a role, never for an id. One channel
 * an engine, in their order, where it is a list.
 */
const rolesSchema = z.strictObject({
  rotor: z.string().optional(),
  /** the gauge of the outside air */
  outsideAir: z.string().optional(),
  /** how hard the engines work, as the pilot reads it: torque, or manifold pressure */
  power: z.array(z.string()).min(1).optional(),
  /** speeds of the power turbines, whose needles join the rotor's */
  powerTurbine: z.array(z.string()).min(1).optional(),
  /** height above the ground */
  height: z.string().optional(),
});

/** What a type is, before anything that it has. */
export const typeHeadSchema = z.strictObject({
  id: z.string().regex(/^[A-Za-z0-9]+$/),
  version: z.int().min(1),
  name: z.string(),
  maker: z.string(),
  role: z.string(),
  engines: z
    .array(
      z.strictObject({
        id: z.int().min(1),
        kind: z.enum(['turbine', 'piston']),
        control: z.enum(['digital', 'manual']),
      }),
    )
    .min(1),
  /** how long a brief stays good, minutes */
  briefGoodFor_min: z.number().positive(),
  /** channels of the strip of room to the limits, top to bottom */
  room: z.array(z.string()).min(1),
});

export const typeShape = z.strictObject({
  format: z.literal('rouse-type/1'),
  ...typeHeadSchema.shape,
  roles: rolesSchema,
  channels: z.array(channelSchema).min(1),
  captions: z.strictObject({ channel: z.string(), list: z.array(captionSchema) }),
  electricalLoads: z.array(z.strictObject({ id: z.string(), label: z.string(), amps: z.number().positive() })),
  limits: z.array(limitSchema),
  loading: loadingSchema,
  performance: performanceSchema,
  ratings: ratingsSchema.optional(),
  wind: windSchema,
  /** for what is predicted of battery and oil; without it that is unknown */
  thermal: thermalSchema.optional(),
  equipment: z.array(equipmentSchema),
  transducers: z.array(transducerSchema),
  startWatches: z.array(startWatchSchema),
  /** where the zones of its list lie on a plan of the aircraft; a type without one is walked by its list alone */
  plan: planSchema.optional(),
  /** what hands move in a drill; a type without it has none to practise on */
  cockpit: z.array(cockpitControlSchema).min(1).optional(),
  runUpWatch: runUpWatchSchema.optional(),
  choices: z.array(choiceSchema),
  turnRound: turnRoundSchema.optional(),
  legs: z.array(legSchema).min(1),
  items: z.array(itemSchema).min(1),
  aborts: z.partialRecord(abortReasonSchema, abortPlanSchema),
  standIn: z.array(standInPresetSchema),
  simulator: z.union([simulatorParametersSchema, pistonParametersSchema]).optional(),
});

/** An aircraft type as one open file, format `rouse-type/1`. */
export type TypeFile = z.infer<typeof typeShape>;
