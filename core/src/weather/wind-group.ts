import { convert } from '../quantity/index.ts';

/** A wind, true north. Speeds are null where the report has none; `at_least` means stronger than it could say. */
export interface Wind {
  kind: 'calm' | 'steady' | 'variable' | 'direction-missing' | 'missing';
  dir_deg: number | null;
  /** the range of directions, clockwise, where one is given */
  from_deg: number | null;
  to_deg: number | null;
  speed_kt: number | null;
  gust_kt: number | null;
  at_least: boolean;
  unit: 'KT' | 'MPS';
}

const WIND = /^(\d{3}|VRB|\/\/\/)(?:(P?)(\d{2,3})|\/\/)(?:G(?:(P?)(\d{2,3})|\/\/))?(KT|MPS)$/;

/** @returns the wind of a group that ends in KT or MPS, or null when it makes no sense */
export function readWind(token: string): Wind | null {
  const match = WIND.exec(token);
  if (!match) return null;
  const [, where, speedAtLeast, speedText, gustAtLeast, gustText, unitText] = match;
  const unit = unitText as Wind['unit'];
  const knots = (text: string | undefined): number | null =>
    text === undefined ? null : unit === 'KT' ? Number(text) : convert(Number(text), 'm/s', 'kt');
  const speed_kt = knots(speedText);
  const gust_kt = knots(gustText);
  const wind: Wind = {
    kind: 'steady',
    dir_deg: null,
    from_deg: null,
    to_deg: null,
    speed_kt,
    gust_kt,
    at_least: speedAtLeast === 'P' || gustAtLeast === 'P',
    unit,
  };
  if (gust_kt !== null && speed_kt !== null && gust_kt <= speed_kt) return null;
  if (speed_kt === null) return { ...wind, kind: 'missing' };
  if (where === 'VRB') return speed_kt === 0 ? null : { ...wind, kind: 'variable' };
  if (where === '///') return { ...wind, kind: 'direction-missing' };
  const dir_deg = Number(where);
  if (dir_deg === 0 && speed_kt === 0) return gust_kt === null ? { ...wind, kind: 'calm' } : null;
  if (dir_deg > 360 || dir_deg === 0 || speed_kt === 0) return null;
  return { ...wind, dir_deg };
}

/** The range group `dddVddd`. @returns null for another group; `ok` false for directions that can't be */
export function readRange(token: string): { from_deg: number; to_deg: number; ok: boolean } | null {
  const match = /^(\d{3})V(\d{3})$/.exec(token);
  if (!match) return null;
  const [from_deg, to_deg] = [Number(match[1]), Number(match[2])];
  return { from_deg, to_deg, ok: from_deg <= 360 && to_deg <= 360 && from_deg !== to_deg };
}
