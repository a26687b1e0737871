import { z } from 'zod';

/** Parameters of the simulated plant, one block per part of docs/physics.md; the unit is the suffix of each key. */

const limitSetSchema = z.strictObject({ tq: z.number(), tot: z.number(), ng: z.number() });
export type LimitSet = z.infer<typeof limitSetSchema>;

/** What every gas turbine has: compressor, flame, turbines, starter-generator, oil. */
const turbineSchema = z.strictObject({
  flow_a0: z.number(),
  flow_a1: z.number(),
  comp_eff_drop: z.number(),
  comb_eff: z.number(),
  comb_eff_drop: z.number(),
  comb_eff_n: z.number(),
  comb_loss: z.number(),
  gt_eff_drop: z.number(),
  pt_eff: z.number(),
  manifold_drain_s: z.number(),
  pool_tau_s: z.number(),
  pool_wet: z.number(),
  pool_drain_s: z.number(),
  soak_view: z.number(),
  soak_flow_frac: z.number(),
  tc_tau_ref_s: z.number(),
  tc_tau_ratio_max: z.number(),
  fuel_tau_s: z.number(),
  prim_frac: z.number(),
  ign_n_min: z.number(),
  phi_lean: z.number(),
  phi_rich: z.number(),
  phi_opt: z.number(),
  phi_w: z.number(),
  ign_tau_s: z.number(),
  ign_temp_k: z.number(),
  flame_up_s: z.number(),
  flame_dn_s: z.number(),
  phi_ext_lean: z.number(),
  phi_ext_rich: z.number(),
  ext_delay_s: z.number(),
  bleed_anti_ice: z.number(),
  bleed_heat: z.number(),
  oil_k_visc: z.number(),
  oil_relief_slope: z.number(),
  t4_design_k: z.number(),
  air_flow_ref_kg_s: z.number(),
  comp_dt_k: z.number(),
  comp_eff: z.number(),
  gt_eff: z.number(),
  gg_ke_ref_j: z.number(),
  pt_ke_ref_j: z.number(),
  pt_drag_w: z.number(),
  tq_ref_w: z.number(),
  np_ref_pct: z.number(),
  hot_cap_j_k: z.number(),
  hot_ha0_w_k: z.number(),
  hot_ha_ref_w_k: z.number(),
  hot_ua_amb_w_k: z.number(),
  hot_ua_oil_w_k: z.number(),
  manifold_kg: z.number(),
  pool_max_kg: z.number(),
  fric_coul_w: z.number(),
  fric_visc_w: z.number(),
  starter_w_ref_rad_s: z.number(),
  starter_ksh: z.number(),
  starter_kse: z.number(),
  starter_r_ohm: z.number(),
  starter_lead_r_ohm: z.number(),
  starter_mech_eff: z.number(),
  starter_ua_w_k: z.number(),
  starter_heat_cap_j_k: z.number(),
  gen_v_set_v: z.number(),
  gen_r_ohm: z.number(),
  gen_i_lim_a: z.number(),
  gen_i_rated_a: z.number(),
  gen_ovl_trip: z.number(),
  gen_eff: z.number(),
  gen_n_min: z.number(),
  fuel_pump_cap_kg_s: z.number(),
  boost_needed: z.number(),
  wf_ref_kg_s: z.number(),
  oil_p_ref_bar: z.number(),
  oil_p_relief_bar: z.number(),
  oil_p_max_bar: z.number(),
  oil_ua_leak_w_k: z.number(),
  oil_ua_cooler_w_k: z.number(),
  oil_therm_c: z.number(),
  oil_cap_j_k: z.number(),
  ctrl_v_min_v: z.number(),
  stodola_r: z.number(),
  pt_dh_ref_j_kg: z.number(),
});

/** The loops, schedules and times of a digital control. */
const digitalSchema = z.strictObject({
  kind: z.literal('fadec'),
  k_nd: z.number(),
  k_t: z.number(),
  k_td: z.number(),
  k_ni: z.number(),
  k_np: z.number(),
  k_pi: z.number(),
  k_pp: z.number(),
  k_q: z.number(),
  k_qd: z.number(),
  k_tr: z.number(),
  k_tdr: z.number(),
  k_nl: z.number(),
  k_na: z.number(),
  k_nld: z.number(),
  k_ff: z.number(),
  purge_tot_c: z.number(),
  purge_min_s: z.number(),
  purge_max_s: z.number(),
  n_fuel_pct: z.number(),
  n_fuel_min_pct: z.number(),
  n_fuel_late_s: z.number(),
  t_crank_max_s: z.number(),
  far_light: z.number(),
  far_light_cold: z.number(),
  light_detect_k: z.number(),
  t_light_max_s: z.number(),
  ndot_sched_ng: z.array(z.number()).min(2),
  ndot_sched: z.array(z.number()).min(2),
  far_start_min: z.number(),
  far_start_max: z.number(),
  far_min: z.number(),
  far_max: z.number(),
  hung_ndot: z.number(),
  hung_time_s: z.number(),
  t_idle_max_s: z.number(),
  vent_min_s: z.number(),
  vent_tot_c: z.number(),
  vent_max_s: z.number(),
  retry_causes: z.array(z.string()),
  retries_max: z.number(),
  retry_wait_s: z.number(),
  retry_ng_pct: z.number(),
  retry_v_min_v: z.number(),
  acc_sched_ng: z.array(z.number()).min(2),
  acc_sched: z.array(z.number()).min(2),
  dec_max: z.number(),
  np_trip_pct: z.number(),
  n_idle_pct: z.number(),
  n_cut_pct: z.number(),
  tot_start_ctl_c: z.number(),
  abort_tot_c: z.number(),
});

/** A bellows schedule and two droop governors behind a twist-grip. */
const manualSchema = z.strictObject({
  kind: z.literal('hmu'),
  grip_cut: z.number(),
  grip_idle: z.number(),
  grip_fly: z.number(),
  hmu_w0_kg_s: z.number(),
  hmu_w1_kg_s: z.number(),
  hmu_w_idle_kg_s: z.number(),
  hmu_wmin_kg_s: z.number(),
  hmu_kn_kg_s: z.number(),
  hmu_wp0_kg_s: z.number(),
  hmu_wpc_kg_s: z.number(),
  hmu_kp_kg_s: z.number(),
  hmu_kpd_kg_s: z.number(),
  n_idle: z.number(),
  n_max: z.number(),
});

/** An air turbine starter, fed by the auxiliary unit. */
const airStarterShape = {
  ats_flow_coeff: z.number(),
  ats_dh_ref_j_kg: z.number(),
  ats_eff: z.number(),
  ats_ratio: z.number(),
  ats_open_s: z.number(),
};

const driveShape = {
  ...turbineSchema.shape,
  ...digitalSchema.shape,
  limits_to: limitSetSchema,
};
const ratingsShape = {
  ratings: z.strictObject({ '30s': limitSetSchema, '2min': limitSetSchema, cont: limitSetSchema }),
  training_exit_nr_pct: z.number(),
};
const engineSchema = z.union([
  z.strictObject({ ...driveShape, starter_type: z.literal('dc') }),
  z.strictObject({ ...driveShape, starter_type: z.literal('dc'), ...ratingsShape }),
  z.strictObject({ ...driveShape, starter_type: z.literal('air'), ...airStarterShape, ...ratingsShape }),
  z.strictObject({ ...turbineSchema.shape, ...manualSchema.shape, starter_type: z.literal('dc') }),
]);

/** The auxiliary unit: one turbine, its own control, a starter-generator, and air for the engines' starters. */
const auxiliarySchema = z.strictObject({
  ...turbineSchema.shape,
  ...digitalSchema.shape,
  starter_type: z.literal('dc'),
  tot_run_lim_c: z.number(),
});

const inertialSchema = z.strictObject({
  time_s: z.number(),
  v_min_v: z.number(),
  v_reset_v: z.number(),
  cold_factor_per_k: z.number(),
});

const aircraftSchema = z.strictObject({
  mass_ref_kg: z.number(),
  exhaust_wind_coeff: z.number(),
  recirc_max: z.number(),
});

const rotorSchema = z.strictObject({
  radius_m: z.number(),
  disc_area_m2: z.number(),
  tip_speed_m_s: z.number(),
  solidity: z.number(),
  lift_slope: z.number(),
  theta_min_rad: z.number(),
  theta_max_rad: z.number(),
  cd0: z.number(),
  cd2: z.number(),
  ct_sigma_max: z.number(),
  kappa: z.number(),
  tail_frac: z.number(),
  download_frac: z.number(),
  vert_drag_area_m2: z.number(),
  hub_height_m: z.number(),
  ke_ref_j: z.number(),
  gb_eff: z.number(),
  mgb_visc_w: z.number(),
  mgb_windage_w: z.number(),
  mgb_coul_w: z.number(),
  acc_w: z.number(),
  brake_w: z.number(),
  mgb_p_ref_bar: z.number(),
  mgb_p_relief_bar: z.number(),
  mgb_p_max_bar: z.number(),
  mgb_ua_leak_w_k: z.number(),
  mgb_ua_cooler_w_k: z.number(),
  mgb_therm_c: z.number(),
  mgb_cap_j_k: z.number(),
  hyd_p_bar: z.number(),
  hyd_knee_nr: z.number(),
  hyd_systems: z.number(),
});

const electricalSchema = z.strictObject({
  batt_type: z.string(),
  batt_cap_ah: z.number(),
  batt_e0_v: z.number(),
  batt_e1_v: z.number(),
  batt_e2_v: z.number(),
  batt_e_temp_v_per_k: z.number(),
  batt_r0_ohm: z.number(),
  batt_r_temp_per_k: z.number(),
  batt_rp_ohm: z.number(),
  batt_accept_k: z.number(),
  batt_tau_p_s: z.number(),
  batt_heat_cap_j_k: z.number(),
  batt_ua_w_k: z.number(),
  ext_v: z.number(),
  ext_r_ohm: z.number(),
  igniter_a: z.number(),
  boost_pump_a: z.number(),
  loads_a: z.record(z.string(), z.number()),
});

const sensorsSchema = z.strictObject({
  ng_noise_pct: z.number(),
  tot_noise_c: z.number(),
  tc_open_reads_c: z.number(),
});

export const simulatorParametersSchema = z.strictObject({
  n_engines: z.int().min(1),
  engine: engineSchema,
  apu: auxiliarySchema.optional(),
  inertial: inertialSchema.optional(),
  aircraft: aircraftSchema,
  rotor: rotorSchema,
  electrical: electricalSchema,
  sensors: sensorsSchema,
});

export type SimulatorParameters = z.infer<typeof simulatorParametersSchema>;
export type TurbineParameters = z.infer<typeof turbineSchema>;
export type DigitalParameters = TurbineParameters & z.infer<typeof digitalSchema>;
export type ManualParameters = TurbineParameters & z.infer<typeof manualSchema>;
export type AirStarterParameters = { [K in keyof typeof airStarterShape]: number };
export type AuxiliaryParameters = z.infer<typeof auxiliarySchema>;
export type InertialParameters = z.infer<typeof inertialSchema>;
/** Power limits of one engine when the other is lost, by rating. */
export interface OneEngineRatings {
  ratings: Record<'30s' | '2min' | 'cont', LimitSet>;
  training_exit_nr_pct: number;
}
export type RotorParameters = SimulatorParameters['rotor'];
export type ElectricalParameters = SimulatorParameters['electrical'];
