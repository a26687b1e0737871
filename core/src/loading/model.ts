import { z } from 'zod';

const pointSchema = z.tuple([z.number(), z.number()]);

/** Centre of gravity against mass, longitudinal and lateral: [arm m, mass kg]. */
export const envelopeSchema = z.object({
  datum: z.string(),
  long_poly: z.array(pointSchema).min(3),
  lat_poly: z.array(pointSchema).min(3),
  margin_long_m: z.number().nonnegative(),
  margin_lat_m: z.number().nonnegative(),
  margin_mass_kg: z.number().nonnegative(),
});
export type Envelope = z.infer<typeof envelopeSchema>;

export const fuelSystemSchema = z.object({
  /** what it burns; turbine fuel where it is not said */
  grade: z.enum(['turbine', 'gasoline']).optional(),
  unusable_kg: z.number().nonnegative(),
  max_L: z.number().positive(),
  /** [fuel kg, longitudinal arm m, lateral arm m], rising from 0 */
  arm_table: z.array(z.tuple([z.number(), z.number(), z.number()])).min(2),
  flow_kgph: z.object({
    ground_idle: z.number().positive(),
    flight_idle: z.number().positive(),
    hover: z.number().positive(),
    cruise: z.number().positive(),
  }),
  start_kg_per_engine: z.number().nonnegative(),
});
export type FuelSystem = z.infer<typeof fuelSystemSchema>;

export const basicMassSchema = z.object({
  mass_kg: z.number().positive(),
  arm_long_m: z.number(),
  arm_lat_m: z.number(),
});

/** An aircraft as the loading calculators see it. */
export interface LoadedAircraft {
  engines: number;
  envelope: Envelope;
  basic: z.infer<typeof basicMassSchema>;
  fuel: FuelSystem;
}

export interface LoadItem {
  name: string;
  mass_kg: number;
  arm_long_m: number;
  arm_lat_m: number;
}
