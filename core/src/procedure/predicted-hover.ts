import { pistonOf, type TypeFile } from '../aircraft/index.ts';
import { LOW_HOVER_ft, pistonHover } from '../power/index.ts';
import { attempt, isRefusal, roundStep } from '../quantity/index.ts';
import { powerNow } from './power-now.ts';
import type { RunState } from './state.ts';

/** How far the manifold pressure of a hover may be off what was predicted, less and more, inHg. */
const BAND_inHg = [1.5, 1] as const;

/** Manifold pressures that agree with what a low hover should take at this weight; null while the brief lacks something. */
export function predictedHover(
  type: TypeFile,
  state: RunState,
  values: ArrayLike<number> | null,
): [number, number] | null {
  const piston = pistonOf(type);
  const now = powerNow(type, state, values, state.phases.at(-1)?.t_s ?? 0);
  if (!piston || 'unknown' in now) return null;
  const found = attempt(() =>
    pistonHover(piston, { ...now, skid_height_ft: LOW_HOVER_ft, ge_model: piston.ge_model ?? 'hayden' }),
  );
  if (isRefusal(found)) return null;
  const { required_inHg } = found as ReturnType<typeof pistonHover>;
  return [
    roundStep(required_inHg - BAND_inHg[0], 0.1, 'nearest'),
    roundStep(Math.min(required_inHg + BAND_inHg[1], now.takeOff), 0.1, 'nearest'),
  ];
}
