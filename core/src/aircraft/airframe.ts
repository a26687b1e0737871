import { z } from 'zod';
import { chartTableSchema } from '../chart/index.ts';
import { basicMassSchema, envelopeSchema, fuelSystemSchema } from '../loading/index.ts';
import { enginePowerSchema, hoverModelSchema, pistonPowerSchema } from '../power/index.ts';
import { batteryModelSchema, crankModelSchema, oilModelSchema, warmupModelSchema } from '../thermal/index.ts';

/** Where people and things are put. */
const stationSchema = z.strictObject({
  id: z.string().regex(/^[a-z0-9-]+$/),
  label: z.string(),
  arm_long_m: z.number(),
  arm_lat_m: z.number(),
  max_kg: z.number().positive(),
  /** what is usually there, kg */
  usual_kg: z.number().nonnegative(),
});
export type Station = z.infer<typeof stationSchema>;

export const loadingSchema = z.strictObject({
  mtow_kg: z.number().positive(),
  empty_kg: z.number().positive(),
  basic: basicMassSchema,
  envelope: envelopeSchema,
  fuel: fuelSystemSchema,
  /** usual density of its fuel, kg/L */
  fuel_density_kgL: z.number().positive(),
  stations: z.array(stationSchema).min(1),
  /** minutes on the ground before lift, by fuel flow phase */
  ground: z.array(z.strictObject({ phase: z.enum(['ground_idle', 'flight_idle']), min: z.number().positive() })),
});

/** Power charts and hover model, made by scripts/fit-performance.mjs. */
export const performanceSchema = z.strictObject({
  chart: z.strictObject({
    quantity: z.string(),
    unit: z.enum(['%', 'inHg']),
    edition: z.int().min(1),
    TOP: chartTableSchema,
    MCP: chartTableSchema,
  }),
  /** never-exceed speed, kt, by pressure altitude and temperature */
  neverExceed: chartTableSchema.optional(),
  /** what a hover takes; a type that is flown by hand may come without, and then it is unknown */
  hover: hoverModelSchema.optional(),
  engine: enginePowerSchema.optional(),
  piston: pistonPowerSchema.optional(),
});

const quadrants = z.strictObject({
  HEAD: z.number().positive(),
  RIGHT: z.number().positive(),
  TAIL: z.number().positive(),
  LEFT: z.number().positive(),
});
export const windSchema = z.strictObject({
  rotor_kt: z.strictObject({
    start: quadrants,
    stop: quadrants,
    gust_spread: z.number().positive(),
    caution_frac: z.number().positive().max(1),
  }),
  blade_sail: z.strictObject({ nr_frac_below: z.number().positive(), wind_threshold_kt: z.number().positive() }),
});

export const thermalSchema = z.strictObject({
  battery: batteryModelSchema,
  crank: crankModelSchema,
  oil: oilModelSchema,
  warmup: warmupModelSchema,
});

/** Transducers of NMEA sentences: XDR name to channel. */
export const transducerSchema = z.strictObject({
  sentence: z.enum(['XDR', 'RPM']),
  name: z.string(),
  channel: z.string(),
  scale: z.number(),
});
