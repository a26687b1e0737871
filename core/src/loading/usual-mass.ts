/** Of the greatest mass, what an aircraft usually lifts with. */
const USUAL_SHARE = 0.92;

/** A usual lift-off mass, kg in tens, for a start without a brief. */
export const usualMass_kg = ({ mtow_kg }: { mtow_kg: number }): number => Math.round((USUAL_SHARE * mtow_kg) / 10) * 10;
