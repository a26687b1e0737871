import type { TypeFile } from '../aircraft/index.ts';
import type { RunState } from './state.ts';

/** Which fuel flow of the type a phase burns with. */
function flowOf(type: TypeFile, phase: string, lifted: boolean): number {
  const { ground_idle, flight_idle, hover, cruise } = type.loading.fuel.flow_kgph;
  if (phase === 'off') return 0;
  if (phase === 'start' || phase === 'idle') return ground_idle;
  // in the air the smaller flow: what is thought to be aboard is never too light
  return lifted ? Math.min(hover, cruise) : flight_idle;
}

/** Fuel burned since the first engine ran, kg, by the flows of the type and the phases of the run. */
export function burned_kg(type: TypeFile, state: RunState, t_s: number): number {
  const legs = type.legs.filter((l) => l.begins);
  const liftedAt_s = legs.length > 1 ? (state.begun[legs[0]!.id] ?? Infinity) : Infinity;
  return state.phases.reduce((sum, { t_s: from_s, phase }, i) => {
    const to_s = Math.min(t_s, state.phases[i + 1]?.t_s ?? t_s);
    const air_s = Math.max(0, to_s - Math.max(from_s, liftedAt_s));
    const ground_s = Math.max(0, to_s - from_s - air_s);
    return sum + (flowOf(type, phase, false) * ground_s + flowOf(type, phase, true) * air_s) / 3600;
  }, 0);
}

/** Weight of this minute, kg: that of the brief less what has been burned; null while the brief has none. */
export function massNow_kg(type: TypeFile, state: RunState, t_s: number): number | null {
  const ramp_kg = state.brief?.expected.mass ?? null;
  return ramp_kg === null ? null : ramp_kg - burned_kg(type, state, t_s);
}
