/** How one axis of a game controller is read. */
export interface StickSetting {
  axis: number;
  /** what it has shown at its ends */
  least: number;
  most: number;
  /** share of its way that is no hand: a stick that rests trembles */
  dead: number;
  /** 1 is even; more makes the first part of the way finer */
  curve: number;
}

export const USUAL_STICK: StickSetting = { axis: 1, least: -1, most: 1, dead: 0.04, curve: 1 };
export const MOST_DEAD = 0.25;
export const MOST_CURVE = 3;
/** an axis that has shown less of a way than this is no lever */
const LEAST_WAY = 0.2;

/** Where a lever is that this axis moves, 0 to 1: pulled up, an axis shows less. */
export function stickShare(shown: number, { least, most, curve }: StickSetting): number {
  const share = Math.min(1, Math.max(0, (most - shown) / (most - least)));
  return share ** curve;
}

/** The setting with what the axis shows now inside its ends; the same one where it was. */
export function reaching(shown: number, setting: StickSetting): StickSetting {
  if (shown >= setting.least && shown <= setting.most) return setting;
  return { ...setting, least: Math.min(shown, setting.least), most: Math.max(shown, setting.most) };
}

/** A setting as it was kept, mended where it cannot be. */
export function readStick(kept: string | null): StickSetting {
  try {
    const read = { ...USUAL_STICK, ...(JSON.parse(kept ?? '{}') as Partial<StickSetting>) };
    const numbers = Object.values(read).every((v) => Number.isFinite(v));
    const fits = read.most - read.least >= LEAST_WAY && read.dead >= 0 && read.dead <= MOST_DEAD && read.curve >= 1 && read.curve <= MOST_CURVE; // oxfmt-ignore
    return numbers && fits && Number.isInteger(read.axis) && read.axis >= 0 ? read : USUAL_STICK;
  } catch {
    return USUAL_STICK;
  }
}
