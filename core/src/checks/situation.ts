/** What a check cannot read from its trace and a power check needs: the air, the weight of this minute, the wind. */
export interface Situation {
  pa_ft: number;
  oat_C: number;
  /** what is bled from the engines, as the power model names it */
  bleed: string;
  mass_kg: number;
  headwind_kt: number;
  /** what this tail's hovers usually take more than predicted, %; 0 until it is known */
  hoverOffset_pct: number;
}
