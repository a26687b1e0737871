import { z } from 'zod';

/** Battery, cranking and oil of an aircraft, for cold and hot days. Units are in the names. */
export const batteryModelSchema = z.object({
  chem: z.string(),
  c_ref_Ah: z.number().positive(),
  t_ref_C: z.number(),
  lambda_per_C: z.number().nonnegative(),
  voc_ref_V: z.number().positive(),
  voc_coef_V_per_C: z.number(),
  r_ref_mohm: z.number().positive(),
  r_b_K: z.number().nonnegative(),
  r_cable_mohm: z.number().nonnegative(),
  t_domain_C: z.tuple([z.number(), z.number()]),
  vmin_limit_V: z.number().positive(),
});
export const crankModelSchema = z.object({
  i_ref_A: z.number().positive(),
  visc_exp: z.number().nonnegative(),
  visc_ref_cSt: z.number().positive(),
  charge_per_start_As: z.number().positive(),
});
export const oilModelSchema = z.object({
  nu40_cSt: z.number().positive(),
  nu100_cSt: z.number().positive(),
  t_domain_C: z.tuple([z.number(), z.number()]),
  relief_bar: z.number().positive(),
});
export const warmupModelSchema = z.object({
  green_C: z.number(),
  tau_prior_s: z.number().positive(),
  tau_min_s: z.number().positive(),
  tau_max_s: z.number().positive(),
});

export type OilModel = z.infer<typeof oilModelSchema>;
export type WarmupModel = z.infer<typeof warmupModelSchema>;

/** An aircraft as these calculators see it. */
export interface CrankedAircraft {
  battery: z.infer<typeof batteryModelSchema>;
  crank: z.infer<typeof crankModelSchema>;
  oil: OilModel;
}
