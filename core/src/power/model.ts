import { z } from 'zod';

/** Height of the skids of a hover in ground effect, ft. */
export const LOW_HOVER_ft = 5;

/** A rotor of a hover model. Units are in the names; coefficients are docs/calculations.md, hover. */
const rotorSchema = z.object({
  R_m: z.number().positive(),
  nb: z.int().positive(),
  chord_m: z.number().positive(),
  vtip_mps: z.number().positive(),
  cd0: z.number().nonnegative(),
  kappa: z.number().min(1),
});

/** What the hover formulas need to know about an airframe. */
export const hoverModelSchema = z.object({
  main: rotorSchema.extend({ ct_sigma_max: z.number().positive(), hub_above_skid_m: z.number().positive() }),
  tail: rotorSchema.extend({ arm_m: z.number().positive(), blockage: z.number().nonnegative() }),
  /** share of the thrust that pushes the fuselage down */
  download: z.number().nonnegative(),
  eta: z.number().positive().max(1),
  accessory_kW: z.number().nonnegative(),
  flatplate_m2: z.number().positive(),
  /** ground effect that agrees best with its own hovers, for predictions; limits take the conservative one */
  ge_model: z.enum(['hayden', 'cb']).optional(),
  vy_kt: z.number().positive(),
  vtoss_kt: z.number().positive(),
});
export type HoverModel = z.infer<typeof hoverModelSchema>;

const RATINGS = ['TOP', 'MCP', 'OEI_30S', 'OEI_2MIN', 'OEI_CONT'] as const;
export type RatingId = (typeof RATINGS)[number];
export const OEI_RATINGS = ['OEI_CONT', 'OEI_2MIN', 'OEI_30S'] as const;
export type OeiRatingId = (typeof OEI_RATINGS)[number];

const ratingSchema = z.object({
  torque_pct: z.number().positive(),
  tot_C: z.number(),
  ng_pct: z.number().positive(),
  kind: z.enum(['AEO', 'OEI']),
});

/** Referred gas temperature and speed of an engine that just meets its specification, as polynomials in referred power. */
const assuranceBaselineSchema = z.object({
  /** °C, coefficients ascending */
  tot_poly: z.array(z.number()).min(2),
  /** %, coefficients ascending */
  ng_poly: z.array(z.number()).min(2),
  /** referred power that the line holds for, % */
  pwr_domain: z.tuple([z.number(), z.number()]),
  tot_exp: z.number().positive(),
  ng_exp: z.number().positive().optional(),
  /** margins that a new engine has, the most over its domain */
  fresh: z.object({ tot_margin_C: z.number().positive(), ng_margin_pct: z.number().positive() }).optional(),
});
export type AssuranceBaseline = z.infer<typeof assuranceBaselineSchema>;

/** The referred power a turbine gives at its temperature and speed limits, and the limits of its ratings. */
export const enginePowerSchema = z.object({
  p100_kW: z.number().positive(),
  pref_temp_kW: z.number().positive(),
  tref_K: z.number().positive(),
  ft: z.tuple([z.number(), z.number()]),
  ft_domain: z.tuple([z.number(), z.number()]),
  pref_ng_kW: z.number().positive(),
  ngref_pct: z.number().positive(),
  fn: z.tuple([z.number(), z.number()]),
  fn_domain: z.tuple([z.number(), z.number()]),
  install_loss: z.number().nonnegative(),
  inlet_rise_K: z.number().nonnegative(),
  inlet_ploss: z.number().nonnegative(),
  bleed_loss: z.record(z.string(), z.number().nonnegative()),
  ratings: z.partialRecord(z.enum(RATINGS), ratingSchema),
  assurance: assuranceBaselineSchema.optional(),
  /** by how much earlier than a new one this engine reaches its limits, referred to the standard day */
  wear: z.object({ tot_C: z.number().nonnegative(), ng_pct: z.number().nonnegative() }).optional(),
});
export type EnginePower = z.infer<typeof enginePowerSchema>;

/** An aircraft as the power calculators see it. */
export interface PoweredAircraft extends HoverModel {
  engines: number;
  mtow_kg: number;
  empty_kg: number;
  engine: EnginePower;
}

/** The air of a calculation, and what is drawn from the engines. */
export interface Air {
  pa_ft: number;
  oat_C: number;
  nr_frac?: number | undefined;
  bleed?: string | undefined;
}
