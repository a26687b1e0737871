import { z } from 'zod';

/**
 * Parameters of a simulated piston trainer (docs/piston.md 3); the unit is the suffix of each key. A speed without a unit is
 * a fraction of 100 %.
 */
export const pistonParametersSchema = z.strictObject({
  kind: z.literal('piston'),
  induction: z.enum(['carburettor', 'injection']),
  /** crank speed at 100 % (2600 rpm), rad/s */
  w_e100_rad_s: z.number(),
  /** overall ratio crank:rotor with belts synchronous */
  g: z.number(),
  /** crank + fan + lower sheave inertia, kg m2 */
  j_e_kgm2: z.number(),
  /** rotor + drive inertia at rotor shaft, kg m2 */
  i_r_kgm2: z.number(),
  /** displacement, m3 */
  v_d_m3: z.number(),
  /** compression ratio */
  r_c: z.number(),
  /** intake manifold volume, m3 */
  v_m_m3: z.number(),
  /** throttle effective area at idle stop, m2 */
  cda_idle_m2: z.number(),
  /** throttle effective area wide open, m2 */
  cda_max_m2: z.number(),
  /** throttle area exponent */
  th_exp: z.number(),
  /** peak dynamic volumetric efficiency factor */
  etav0: z.number(),
  /** speed of peak volumetric efficiency */
  etav_n: z.number(),
  /** curvature of volumetric efficiency */
  etav_k: z.number(),
  /** charge heat pick-up from head */
  k_pick: z.number(),
  /** charge cooling by fuel evaporation, K */
  dt_ch_k: z.number(),
  /** heat released per kg air at stoichiometric (43.5 MJ/kg / 14.7), J/kg */
  q_air_j_per_kg: z.number(),
  /** stoichiometric air-fuel ratio */
  afr: z.number(),
  /** indicated efficiency scale */
  eta_i: z.number(),
  /** best-power equivalence ratio */
  phi_best: z.number(),
  /** lean half width */
  phi_lw: z.number(),
  /** rich half width */
  phi_rw: z.number(),
  /** low-speed heat-loss speed constant */
  n_hl: z.number(),
  /** residual dilution penalty */
  k_res: z.number(),
  /** residual fraction coefficient x_r = C_RES*p_a/p_m */
  c_res: z.number(),
  /** fixed magneto timing, deg */
  adv_deg: z.number(),
  /** timing tolerance width, deg */
  adv_a_deg: z.number(),
  /** starting (retarded) spark below this speed, only while the starter contactor is closed */
  n_imp: z.number(),
  /** fraction of compression work to be carried by flywheel */
  k_rip: z.number(),
  /** energy the driven starter lends per compression (catches the crank on the hump), J */
  w_sta_j: z.number(),
  /** no spark below, rpm */
  w_spk0_rpm: z.number(),
  /** full spark above, rpm */
  w_spk1_rpm: z.number(),
  /** single-plug loss at zero speed */
  k_s0: z.number(),
  /** single-plug loss slope with n */
  k_s1: z.number(),
  /** boundary fmep, bar */
  f0_bar: z.number(),
  /** hydrodynamic fmep at reference viscosity and n=1, bar */
  f1_bar: z.number(),
  /** exponent on (viscosity ratio * n) */
  f_exp: z.number(),
  /** turbulent fmep * n^2, bar */
  f2_bar: z.number(),
  /** reference viscosity (90 C), Pa s */
  mu_ref_pas: z.number(),
  /** Vogel a, Pa s */
  mu_a_pas: z.number(),
  /** Vogel b, K */
  mu_b_k: z.number(),
  /** Vogel c (T in C), K */
  mu_c_k: z.number(),
  /** carburettor equivalence ratio, full rich, ISA sea level */
  phi_full: z.number(),
  /** enrichment exponent with thin air (0.5 = no compensator) */
  alt_en: z.number(),
  /** idle cut-off below this lever */
  mix0: z.number(),
  /** relative fuel just above cut-off */
  mix_g0: z.number(),
  /** air flow for half metering signal, kg/s */
  m_vent_kg_s: z.number(),
  /** vapour fraction at 0 C */
  xv0: z.number(),
  /** vapour fraction slope, 1/K */
  xv1_per_k: z.number(),
  /** extra vapour fraction, injected */
  xv_inj: z.number(),
  /** film evaporation time at 15 C, s */
  tau_e0_s: z.number(),
  /** film evaporation e-fold temperature, K */
  tau_et_k: z.number(),
  /** film entrainment per kg air, 1/kg */
  k_ent_per_kg: z.number(),
  /** film drain time, s */
  tau_dr_s: z.number(),
  /** in-cylinder evaporated fraction at 0 C */
  ec0: z.number(),
  /** slope, 1/K */
  ec1_per_k: z.number(),
  /** wet-plug mass for half spark, g */
  wet_ref_g: z.number(),
  /** wet-plug drying time, cold, no flow, s */
  tau_w_s: z.number(),
  /** cylinder purge per kg air, 1/kg */
  k_wpurge_per_kg: z.number(),
  /** wet clearing by combustion at n=1, 1/s */
  k_wburn_per_s: z.number(),
  /** primer flow (T2), g/s */
  q_prime_g_s: z.number(),
  /** port flow, mixture rich + boost pump, engine stopped (T2i), g/s */
  q_primei_g_s: z.number(),
  /** fraction of primer fuel running straight into the cylinders */
  wet_pr: z.number(),
  /** accelerator pump delivery per full stroke (T2), g */
  m_acc_g: z.number(),
  /** bowl percolation rate when body > T_PERC, g/s */
  perc_g_s: z.number(),
  /** percolation temperature, C */
  t_perc_c: z.number(),
  /** carburettor body heat capacity, J/K */
  c_cb_j_per_k: z.number(),
  /** body loss, no flow, W/K */
  h_cb0_w_per_k: z.number(),
  /** body convection per air flow, W s/(K kg) */
  h_cb1_ws_per_k_kg: z.number(),
  /** body to bay conductance, W/K */
  g_cbb_w_per_k: z.number(),
  /** throat evaporative drop, K */
  dt_ev_k: z.number(),
  /** throttle-plate expansion drop at closed throttle, K */
  dt_th_k: z.number(),
  /** muff temperature rise at high flow, K */
  dt_muff_k: z.number(),
  /** muff half flow, kg/s */
  m_muff_kg_s: z.number(),
  /** muff time constant, s */
  tau_muff_s: z.number(),
  /** ice deposition, (g/s)/((kg/s)^0.35 g/m3) */
  k_ice_g_s: z.number(),
  /** ice melting, g/(s K) */
  k_melt_g_per_s_k: z.number(),
  /** throat area blocked per g, m2/g */
  a_ice_m2_per_g: z.number(),
  /** no adhesion below, C */
  t_adh0_c: z.number(),
  /** full adhesion above, C */
  t_adh1_c: z.number(),
  /** sublimation scale (dry air) */
  k_subl: z.number(),
  /** cylinder heads and barrels, J/K */
  c_h_j_per_k: z.number(),
  /** oil, J/K */
  c_o_j_per_k: z.number(),
  /** crankcase, J/K */
  c_c_j_per_k: z.number(),
  /** engine bay, J/K */
  c_b_j_per_k: z.number(),
  /** gas to head, W/(K (kg/s)^0.75) */
  k_h_w_per_k: z.number(),
  /** gas to oil through pistons, W/(K (kg/s)^0.75) */
  k_oil_w_per_k: z.number(),
  /** mean effective gas temperature at best power, C */
  t_gas_c: z.number(),
  /** head natural convection, W/K */
  ua_h0_w_per_k: z.number(),
  /** head forced convection at n=1, ISA density, W/K */
  ua_h1_w_per_k: z.number(),
  /** exponent */
  ua_hexp: z.number(),
  /** head-case, W/K */
  g_hc_w_per_k: z.number(),
  /** oil-case, stopped, W/K */
  g_oc_w_per_k: z.number(),
  /** oil-case, extra at n=1, W/K */
  g_oc1_w_per_k: z.number(),
  /** case natural, W/K */
  ua_c0_w_per_k: z.number(),
  /** case forced at n=1, W/K */
  ua_c1_w_per_k: z.number(),
  /** oil cooler at n=1, thermostat open, W/K */
  ua_oc_w_per_k: z.number(),
  /** oil thermostat opens, C */
  t_th0_c: z.number(),
  /** fully open, C */
  t_th1_c: z.number(),
  /** cooler leak fraction when shut */
  ua_olk: z.number(),
  /** friction heat to oil */
  fr_oil: z.number(),
  /** friction heat to head */
  fr_head: z.number(),
  /** friction heat to case */
  fr_case: z.number(),
  /** head-bay, W/K */
  g_hb_w_per_k: z.number(),
  /** bay natural, W/K */
  ua_b0_w_per_k: z.number(),
  /** bay forced, W/K */
  ua_b1_w_per_k: z.number(),
  /** fuel line, J/K */
  c_fl_j_per_k: z.number(),
  /** fuel line-bay, W/K */
  g_fl_w_per_k: z.number(),
  /** vapour-lock onset, no pump, sea level, C */
  t_vl_c: z.number(),
  /** onset shift with boost pump, K */
  dt_vlp_k: z.number(),
  /** width, K */
  dt_vlw_k: z.number(),
  /** return-line purge, pump on, g/s */
  q_purge_g_s: z.number(),
  /** pump displacement, m3/rad */
  d_oil_m3_per_rad: z.number(),
  /** bearing leak conductance * viscosity, m3/Pa * Pa s */
  gl0_m3: z.number(),
  /** viscosity-free leak, m3/(s Pa) */
  gl1_m3_per_s_pa: z.number(),
  /** relief opening, Pa */
  p_rel_pa: z.number(),
  /** relief conductance at reference viscosity, m3/(s Pa) */
  gr0_m3_per_s_pa: z.number(),
  /** relief viscosity exponent */
  gr_exp: z.number(),
  /** suction-starvation viscosity, Pa s */
  mu_suc_pas: z.number(),
  /** gallery volume to fill after standing, m3 */
  v_gal_m3: z.number(),
  /** battery capacity, A h */
  cap_ah: z.number(),
  /** open circuit at SOC 0, V */
  ocv0_v: z.number(),
  /** slope, V */
  ocv1_v: z.number(),
  /** resistance, 25 C full, ohm */
  r_b0_ohm: z.number(),
  /** cold exponent, 1/K */
  k_rbt_per_k: z.number(),
  /** discharge factor */
  k_rbs: z.number(),
  /** polarisation R / ohmic R */
  k_pol: z.number(),
  /** polarisation time, s */
  tau_pol_s: z.number(),
  /** battery heat capacity, J/K */
  c_bat_j_per_k: z.number(),
  /** battery loss, W/K */
  ua_bat_w_per_k: z.number(),
  /** starter constant referred to crank, V s/rad */
  k_st_vs_per_rad: z.number(),
  /** starter + cable, ohm */
  r_st_ohm: z.number(),
  /** starter mechanical efficiency */
  eta_st: z.number(),
  /** starter free-running current, A */
  i_stnl_a: z.number(),
  /** brush drop, V */
  v_br_v: z.number(),
  /** contactor pull-in, V */
  v_pull_v: z.number(),
  /** contactor drop-out, V */
  v_drop_v: z.number(),
  /** starter heat capacity, J/K */
  c_st_j_per_k: z.number(),
  /** starter loss, W/K */
  ua_st_w_per_k: z.number(),
  /** regulator set-point, V */
  v_reg_v: z.number(),
  /** regulator gain, A/V */
  g_alt_a_per_v: z.number(),
  /** alternator limit, A */
  i_alt_a: z.number(),
  /** alternator cut-in */
  n_alt0: z.number(),
  /** alternator rise constant */
  n_alt1: z.number(),
  /** alternator efficiency */
  eta_alt: z.number(),
  /** base load master on, A */
  i_base_a: z.number(),
  /** boost pump, A */
  i_pump_a: z.number(),
  /** clutch actuator, A */
  i_act_a: z.number(),
  /** actuator stroke time at 13 V, s */
  t_act_s: z.number(),
  /** slack take-up fraction */
  x_slack: z.number(),
  /** strand tension at x=1, N */
  f_belt_n: z.number(),
  /** tension exponent */
  f_expb: z.number(),
  /** lower sheave radius, m */
  r_sh_m: z.number(),
  /** belt friction */
  mu_belt: z.number(),
  /** half groove angle, deg */
  half_v_deg: z.number(),
  /** wrap, rad */
  wrap_rad: z.number(),
  /** belt mass per length, kg/m */
  m_belt_kg_per_m: z.number(),
  /** tension switch opens (light out), fraction of F_BELT */
  f_tgt: z.number(),
  /** tension switch re-makes */
  f_low: z.number(),
  /** tension loss per belt kelvin, 1/K */
  k_bexp_per_k: z.number(),
  /** belt + sheave rim, J/K */
  c_belt_j_per_k: z.number(),
  /** belt loss, W/K */
  ua_blt0_w_per_k: z.number(),
  /** belt loss per n, W/K */
  ua_blt1_w_per_k: z.number(),
  /** glazing onset, C */
  t_glaze_c: z.number(),
  /** freewheel overrun drag at crank, N m */
  q_ovr_nm: z.number(),
  /** radius, m */
  r_rot_m: z.number(),
  /** solidity */
  sol: z.number(),
  /** lift slope, 1/rad */
  a_lift_per_rad: z.number(),
  /** profile drag */
  cd0: z.number(),
  /** drag growth with mean lift angle, 1/rad2 */
  cd2_per_rad2: z.number(),
  /** induced factor */
  kap: z.number(),
  /** tail rotor + transmission power factor */
  k_tr: z.number(),
  /** blade angle, collective down, rad */
  th_min_rad: z.number(),
  /** collective up, rad */
  th_max_rad: z.number(),
  /** rotor/gear Coulomb drag, N m */
  q_rc_nm: z.number(),
  /** gear viscous drag, N m s */
  q_rv_nms: z.number(),
  /** brake torque full lever (static), N m */
  q_brk_nm: z.number(),
  /** dynamic/static brake friction */
  brk_dyn: z.number(),
  /** Stribeck speed of brake, rad/s */
  w_brk_rad_s: z.number(),
  /** brake disc, J/K */
  c_brk_j_per_k: z.number(),
  /** brake loss, W/K */
  ua_brk_w_per_k: z.number(),
  /** induced factor on the skids (ground effect) */
  k_ige: z.number(),
  /** correlator: throttle per unit collective */
  k_cor: z.number(),
  /** start detent upper edge of grip (correlator off) */
  det: z.number(),
  /** hand grip rate, 1/s */
  grip_rate_per_s: z.number(),
  /** governor active above */
  n_gov: z.number(),
  /** governor reference */
  n_ref: z.number(),
  /** deadband */
  db_gov: z.number(),
  /** governor rate gain, 1/s */
  kp_gov_per_s: z.number(),
  /** governor derivative gain */
  kd_gov: z.number(),
  /** governor servo rate, 1/s */
  rate_gov_per_s: z.number(),
  /** over-rev protection above */
  n_orp: z.number(),
  /** over-rev close rate, 1/s */
  rate_orp_per_s: z.number(),
  /** governor lower authority (grip) */
  gov_min: z.number(),
  /** governor upper authority (grip) */
  gov_max: z.number(),
  /** governor rate filter, s */
  tau_g_s: z.number(),
  /** pilot rate gain, 1/s */
  kp_pil_per_s: z.number(),
  /** pilot derivative gain */
  kd_pil: z.number(),
  /** pilot rate limit, 1/s */
  rate_pil_per_s: z.number(),
});
export type PistonParameters = z.infer<typeof pistonParametersSchema>;
