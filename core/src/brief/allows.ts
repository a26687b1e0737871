import type { TypeFile } from '../aircraft/index.ts';
import { briefOf } from './brief.ts';
import type { Figure } from './figure.ts';
import type { BriefInput } from './input-schema.ts';
import { type BriefContext, emptyBrief } from './input.ts';
import { readReport } from './from-report.ts';
import type { Brief, Objection } from './result.ts';

/** How near something is to what it may be. */
export type Nearness = 'good' | 'near' | 'past' | 'unknown';

/** One thing that the day allows, or does not, for a short line with a bar. */
export interface Allowed {
  nearness: Nearness;
  words: string;
  /** of the whole that is allowed, what is used; null when it is not known */
  used: number | null;
}

/** What today allows one aircraft, at the load and the nose of its last brief. */
export interface DayAllows {
  /** of the nose, by its last brief, magnetic */
  heading_deg: number | null;
  /** °C on its pad, by the report; null while nobody has read one for its site */
  oat_C: number | null;
  rotorWind: Allowed;
  power: Allowed;
  /** null for a single: it comes down */
  engineOut: Allowed | null;
  /** seconds until it is ready if it is begun now, and what holds it longest */
  ready_s: number;
  heldBy: string | null;
  objections: Objection[];
}

/** What nobody has entered yet speaks against a brief, and says nothing of the day. */
function isOnlyUnsaid({ id }: Objection, brief: Brief): boolean {
  switch (id) {
    case 'conditions':
    case 'expired':
      return true;
    case 'wind':
      return (
        brief.rotorStart.state === 'unknown' ||
        (brief.rotorStart.state === 'known' && brief.rotorStart.value.wind_kt === null)
      );
    case 'power':
      return brief.hoverIge.state === 'unknown';
    case 'load':
      return brief.balance.state === 'unknown';
    case 'fuel-flight':
      return brief.landingFuel_kg.state === 'unknown';
    default:
      return false;
  }
}

const FUEL_SHARE = 0.6;
/** less than this share of the limit left is near it */
const NEAR_SHARE = 0.1;

/**
 * What a report allows an aircraft that nobody has briefed yet.
 * @param report of its own site; null: what the air does is unknown there, and is never borrowed from another site
 * @param last as it was briefed last: nose, load and fuel are taken from it
 */
export function allowedToday(context: BriefContext, report: string | null, last: BriefInput | null): DayAllows {
  const input = inputFor(context, report, last);
  const brief = briefOf(input, context, 0);
  const { schedule } = brief;
  return {
    heading_deg: input.heading_deg,
    oat_C: report === null ? null : brief.record.oat_C,
    rotorWind: rotorWindOf(brief),
    power: powerOf(context.type, brief),
    engineOut: brief.oeiAtLift && engineOutOf(brief.oeiAtLift),
    ready_s: schedule.ready_s,
    heldBy: schedule.heldBy?.challenge ?? null,
    objections: brief.objections.filter((o) => !isOnlyUnsaid(o, brief)),
  };
}

function inputFor({ type, now }: BriefContext, report: string | null, last: BriefInput | null): BriefInput {
  const { max_L } = type.loading.fuel;
  const fuel_kg = Math.round(FUEL_SHARE * max_L * type.loading.fuel_density_kgL);
  const blank = emptyBrief(type);
  const kept = last && { heading_deg: last.heading_deg, load: { ...blank.load, ...last.load }, fuel_kg: last.fuel_kg, flight_min: last.flight_min }; // oxfmt-ignore
  return { ...blank, fuel_kg, ...kept, ...(report !== null && { report, ...readReport(report, now).fields }) };
}

const unknown = (words: string): Allowed => ({ nearness: 'unknown', words, used: null });

function missing<T>(figure: Exclude<Figure<T>, { state: 'known' }>): Allowed {
  return unknown(figure.state === 'unknown' ? 'unknown there' : figure.words);
}

const FROM = { HEAD: 'head', RIGHT: 'right', TAIL: 'tail', LEFT: 'left' } as const;
const NEARNESS = { WITHIN: 'good', CAUTION: 'near', EXCEEDS: 'past', UNKNOWN: 'unknown' } as const;

function rotorWindOf({ rotorStart }: Brief): Allowed {
  if (rotorStart.state !== 'known') return missing(rotorStart);
  const { verdict, wind_kt, limit_kt, quadrants } = rotorStart.value;
  if (wind_kt === null || limit_kt === null) return unknown('unknown there');
  const from = quadrants.length === 0 ? '' : `, ${quadrants.length > 2 ? 'any side' : quadrants.map((q) => FROM[q]).join(' or ')}`; // oxfmt-ignore
  return { nearness: NEARNESS[verdict], words: `${Math.ceil(wind_kt)} of ${limit_kt} kt${from}`, used: wind_kt / limit_kt };
} // oxfmt-ignore

function powerOf({ performance: { chart } }: TypeFile, { hoverOge, hoverIge }: Brief): Allowed {
  // out of ground effect where the chart tells, else what holds it near the ground
  const hover = hoverOge.state === 'known' ? hoverOge : hoverIge;
  if (hover.state !== 'known') return missing(hover);
  const { margin, required, available } = hover.value;
  const left = margin / available;
  return {
    nearness: margin < 0 ? 'past' : left < NEAR_SHARE ? 'near' : 'good',
    words: margin < 0 ? `${-margin} ${chart.unit} too much` : `${margin} ${chart.unit} left`,
    used: required / available,
  };
}

const RATINGS = {
  OEI_CONT: { nearness: 'good', words: 'holds, continuous', used: 0.5 },
  OEI_2MIN: { nearness: 'near', words: 'holds 2 min', used: 0.75 },
  OEI_30S: { nearness: 'near', words: 'holds 30 s', used: 0.92 },
  NONE: { nearness: 'past', words: 'comes down', used: 1 },
} as const satisfies Record<string, Allowed>;

function engineOutOf(oei: NonNullable<Brief['oeiAtLift']>): Allowed {
  return oei.state === 'known' ? RATINGS[oei.value.rating] : missing(oei);
}
