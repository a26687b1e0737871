import type { TypeFile } from '@rouse/core/aircraft';
import { convert } from '@rouse/core/quantity';
import type { FailurePoint } from '@rouse/core/simulator';
import { type HeldWeights, MAP_SIDE, TEMPERATURES_C } from './board-figures.ts';

/** out of ground effect, with room to see it fall, m */
const HEIGHT_m = 250;
/** the lightest weight of the map, of the empty one */
const LIGHTEST_SHARE = 1.1;

type Weights = Pick<TypeFile['loading'], 'empty_kg' | 'mtow_kg'>;

/** The least and the greatest weight of the map, kg. */
export const gridWeights_kg = ({ empty_kg, mtow_kg }: Weights): [number, number] => [LIGHTEST_SHARE * empty_kg, mtow_kg]; // oxfmt-ignore

/** The failures of the map: every temperature with every weight, the weights of one temperature together. */
export function failureGrid(loading: Weights, pa_ft: number): FailurePoint[] {
  const [low_kg, high_kg] = gridWeights_kg(loading);
  const pa_m = convert(pa_ft, 'ft', 'm');
  return TEMPERATURES_C.flatMap((oat_C) =>
    Array.from({ length: MAP_SIDE }, (_, k): FailurePoint => ({
      oat_C,
      mass_kg: low_kg + ((high_kg - low_kg) * k) / (MAP_SIDE - 1),
      pa_m,
      height_m: HEIGHT_m,
      rating: '30s',
    })),
  );
}

/** How the flown points agree with the thirty-second line. */
export function agreementOf(
  holds: readonly (boolean | null)[],
  points: readonly FailurePoint[],
  line: HeldWeights,
): { share: number; unsafe: number } | null {
  let [same, unsafe, flown] = [0, 0, 0];
  points.forEach(({ mass_kg }, i) => {
    const limit = line.kg[Math.floor(i / MAP_SIDE)]!;
    if (holds[i] === null || Number.isNaN(limit)) return;
    flown++;
    if (mass_kg <= limit === holds[i]) same++;
    else if (!holds[i]) unsafe++;
  });
  return flown === 0 ? null : { share: (100 * same) / flown, unsafe };
}
