import { type BriefContext, type BriefInput, emptyBrief, readReport } from '@rouse/core/brief';
import { typeOf } from './fleet.ts';

export const NOW = '2026-11-25T08:34:00Z';
export const REPORT = 'METAR QXVA 250830Z 24012G21KT 9999 BKN022 03/01 Q1008=';

/** What record and place know of a tail on pad 3 on a quiet morning. */
export function contextOf(id: string, rest: Partial<BriefContext> = {}): BriefContext {
  return {
    type: typeOf(id),
    tail: 'QV-ANY',
    pad: 'pad 3',
    site: { name: 'Varra', elev_ft: 61, variation_E_deg: -3 },
    now: NOW,
    basic: null,
    defects: [],
    due: [],
    operatorWays: {},
    openExceedances: [],
    starts: [],
    past: [],
    startsByEngine: [0, 0],
    engineMargin: null,
    lastRunEndedAt: null,
    neighbours: [],
    ...rest,
  };
}

/** A brief of that morning, at the type's usual load. */
export function inputOf(id: string, rest: Partial<BriefInput> = {}): BriefInput {
  const type = typeOf(id);
  return {
    ...emptyBrief(type),
    ...readReport(REPORT, NOW).fields,
    report: REPORT,
    heading_deg: 30,
    fuel_kg: Math.round(0.6 * type.loading.fuel.max_L * type.loading.fuel_density_kgL),
    flight_min: 40,
    ...rest,
  };
}
