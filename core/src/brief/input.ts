import type { Choice, TypeFile } from '../aircraft/index.ts';
import type { EngineMargin } from '../health/index.ts';
import type { HeldEntry, PastWait } from '../procedure/index.ts';
import type { BriefInput } from './input-schema.ts';

/** A wind of which nobody has said anything. */
export const NO_WIND: BriefInput['wind'] = {
  direction_deg: null,
  from_deg: null,
  to_deg: null,
  speed_kt: null,
  gust_kt: null,
};

/** A brief with nothing entered yet but the type's usual load. */
export function emptyBrief(type: TypeFile): BriefInput {
  return {
    report: '',
    wind: NO_WIND,
    oat_C: null,
    dew_C: null,
    qnh_hPa: null,
    observedAt: null,
    heading_deg: null,
    load: Object.fromEntries(type.loading.stations.map((s) => [s.id, s.usual_kg])),
    fuel_kg: null,
    flight_min: null,
    bleed: 'none',
    ways: {},
    missing: [],
    turnRound: [],
    slowNeighbours: [],
    accepted: {},
  };
}

/** Another aircraft on the pads. */
export interface Neighbour {
  name: string;
  tail: string;
  distance_m: number;
  typeName: string;
  /** null where its type does not say */
  rotor: { R_m: number; hub_above_skid_m: number } | null;
  blade_sail: { nr_frac_below: number; wind_threshold_kt: number };
}

/** An item that an engineer has set and that is near, or past. */
export interface DueSoon {
  title: string;
  /** how near, or how long past */
  words: string;
  state: 'soon' | 'past' | 'unknown';
  /** past, it holds the next start */
  holds: boolean;
}

/** What the record and the place know, beside what is entered. */
export interface BriefContext {
  type: TypeFile;
  tail: string;
  pad: string;
  site: {
    name: string;
    elev_ft: number;
    variation_E_deg: number;
    /** HH:MM in UTC, null for a place that is always open */
    hours?: { opens: string; closes: string } | null;
  };
  /** as this aircraft was weighed; null: as its type says */
  basic: TypeFile['loading']['basic'] | null;
  /** equipment that is missing or defective until an engineer closes it */
  defects: readonly { equipment: string; words: string }[];
  /** what falls due soon, or is past */
  due: readonly DueSoon[];
  /** ISO 8601 */
  now: string;
  /** answers of the operator where they differ from the type's usual ones */
  operatorWays: Readonly<Record<string, string>>;
  openExceedances: readonly HeldEntry[];
  /** earlier good starts of this tail, newest first */
  starts: readonly Readonly<Record<string, number | null>>[];
  past: readonly PastWait[];
  /** good starts by engine, engine 1 first */
  startsByEngine: readonly number[];
  /** temperature margin of the weaker engine by the last hover or power assurance; null while none was read */
  engineMargin: EngineMargin | null;
  lastRunEndedAt: string | null;
  neighbours: readonly Neighbour[];
}

/** A brief of an aircraft without a past, without neighbours, and with the usual answers of its type. */
export function contextAlone(of: Pick<BriefContext, 'type' | 'tail' | 'pad' | 'site' | 'now'>): BriefContext {
  return {
    ...of,
    basic: null,
    defects: [],
    due: [],
    operatorWays: {},
    openExceedances: [],
    starts: [],
    past: [],
    startsByEngine: [],
    engineMargin: null,
    lastRunEndedAt: null,
    neighbours: [],
  };
}

/** The answer of the operator to a choice. */
export function operatorWay(choice: Choice, operator: Readonly<Record<string, string>>): string {
  return operator[choice.id] ?? choice.usual;
}
