import { z } from 'zod';
import { type BriefContext, briefInputSchema, type DayAllows, type DueSoon } from '../brief/index.ts';
import { payloadSchema, type Entry, type RunOutcome, type PastWait, type Source } from '../procedure/index.ts';
import { lineSchema, paceSchema, type StandInLine } from './stand-in.ts';
import type { Story } from '../debrief/index.ts';
import type { Compared, UsualFigure } from '../health/index.ts';
import type { Booking } from '../shutdown/index.ts';
import { type CsvMapping, csvMappingSchema } from '../replay/index.ts';
import type { Corridor } from '../watch/index.ts';

export const openRunSchema = z.strictObject({
  aircraft: z.uuid(),
  brief: briefInputSchema,
  /** worked by eye and hand, whatever line there is */
  byHand: z.boolean().optional(),
});
export const operatorWaySchema = z.strictObject({ version: z.int().min(1), choice: z.string(), to: z.string() });
/** What was found and done about an exceedance; who releases it is who is signed in. */
export const releaseSchema = z.strictObject({
  found: z.string().trim().min(4, 'says what was found and done').max(2000),
});
/** a journal is no longer than this; a larger number is a mistake */
const MOST_ENTRIES = 1_000_000;
export const writeEntrySchema = z.strictObject({
  id: z.uuid(),
  seq: z.int().min(1).max(MOST_ENTRIES),
  payload: payloadSchema,
});
/** A report of the present weather of a site, as it was received. */
export const siteReportSchema = z.strictObject({
  report: z.string().trim().min(10, 'is a report of the present weather').max(2000),
});
export const presetSchema = z.strictObject({ aircraft: z.uuid(), preset: z.string().min(1) });
export const prepareSchema = z.strictObject({
  aircraft: z.uuid(),
  mass_kg: z.number().positive().max(100_000).nullable(),
});
export const standInLineSchema = z.strictObject({ aircraft: z.uuid(), line: lineSchema });
const header = z.string().min(1).max(20_000);
export const mappingKeySchema = z.strictObject({ header });
export const keptMappingSchema = z.strictObject({ header, mapping: csvMappingSchema });
export const hurrySchema = z.strictObject({ run: z.uuid(), times: paceSchema });
/** One practice flight on the simulator: what was practised, and its figures. Never part of an aircraft's record. */
export const practiceSchema = z.strictObject({
  type: z.string().min(1).max(20),
  exercise: z.enum(['training', 'failure']),
  result: z.strictObject({
    lasted_s: z.number().nonnegative(),
    height_lost_m: z.number(),
    nr_least_pct: z.number(),
    mass_kg: z.number().positive(),
    oat_C: z.number(),
    failed_at_s: z.number().nullable(),
    ratings: z.array(z.strictObject({ label: z.string(), booked_s: z.number(), uses: z.int() })).max(12),
    ended: z.enum(['landed', 'flown-away', 'hard', 'stopped']),
  }),
});
export type Practice = z.infer<typeof practiceSchema>;
export interface PracticeRow extends Practice {
  id: string;
  at: string;
}
export const beginSchema = z.strictObject({ run: z.uuid(), leg: z.string().min(1) });
export const moveSchema = z.strictObject({ run: z.uuid(), item: z.string().min(1) });

/** What the server wrote of an answer, with every entry from the number on that the page had counted on. */
export interface Written {
  entry: Entry;
  entries: Entry[];
}

export interface RunSummary {
  run: string;
  openedAt: string;
  closedAt: string | null;
  pilot: string;
  outcome: RunOutcome | null;
  source: Source;
  conditions: string;
}

export interface AircraftToday {
  aircraft: string;
  tail: string;
  type: { id: string; version: number; name: string; role: string };
  /** a device, or a stand-in, is wired to it */
  wired: boolean;
  /** something speaks on its line now */
  connected: boolean;
  /** null where no line is laid */
  standIn: StandInState | null;
  pad: string;
  openRun: string | null;
  /** a run that cannot be taken up and holds the aircraft, with the reason */
  setAside: { run: string; reason: string } | null;
  /** where an open run is: the leg, and who flies it */
  running: { pilot: string; legs: { label: string; status: string }[]; openedAt: string } | null;
  /** heat left in an engine that stands, and when the gate of the next start opens; null where nothing reads it */
  residual: {
    label: string;
    value_C: number;
    limit_C: number;
    startIn_min: number | null;
    curve: { min: number; tot_C: number }[];
  } | null;
  site: string;
  openExceedances: number;
  /** the oldest that is open */
  exceedance: { run: string; seq: number; title: string; at: string } | null;
  defects: number;
  /** what falls due soon, or is past */
  due: DueSoon[];
  /** what the report of its site allows; null while it is being worked out */
  allows: DayAllows | null;
  /** its last starts by the figure that says most of them; null while it is being worked out, or without any */
  starts: StartsToday | null;
  /** what its trends found; null while it is being worked out */
  findings: string[] | null;
  /** null for a type whose starts are timed by hand */
  goodStarts: number | null;
  recent: RunSummary[];
  /** what its runs have booked: starts and running of all engines together */
  booked: { starts: number; running_s: number; flight_s: number };
}

/** The last starts of a tail under their limit. */
export interface StartsToday {
  label: string;
  unit: string;
  decimals: number;
  worse: 'high' | 'low' | 'either';
  /** as they were read, oldest first */
  values: number[];
  /** two sigma around its usual; null while there are too few */
  usual: [number, number] | null;
  limit: { at: number; words: string } | null;
}

/** A place with its weather: one report serves every aircraft on it. */
export interface SiteToday {
  site: string;
  elev_ft: number;
  variation_E_deg: number;
  report: { text: string; by: string; at: string } | null;
  pads: { pad: string; x_m: number; y_m: number }[];
}

export interface StandInState {
  connected: boolean;
  /** null when no stand-in answers */
  preset: string | null;
  line: StandInLine | null;
  presets: { id: string; label: string; note: string }[];
}

export interface Today {
  operator: { name: string; place: string };
  person: { name: string; role: string };
  /** ISO 8601, by the server */
  now: string;
  sites: SiteToday[];
  aircraft: AircraftToday[];
}

export interface RunDetail extends RunSummary {
  aircraft: string;
  tail: string;
  pad: string;
  type: { id: string; version: number };
  entries: Entry[];
  /** how long the waits of this aircraft took before, newest first */
  past: PastWait[];
  /** what the figures of its checks usually are, by "check/figure" */
  usual: Record<string, UsualFigure>;
}

/** JSON has no NaN: an empty bin is null. */
export type Wire<T> = T extends number
  ? number | null
  : T extends (infer U)[]
    ? Wire<U>[]
    : T extends object
      ? { [K in keyof T]: Wire<T[K]> }
      : T;

export interface Debrief {
  run: RunDetail;
  verdict: string;
  details: string;
  starts: {
    watch: string;
    attempt: number;
    features: Record<string, number | null>;
    compared: Compared[];
    bands: { band: string; edge: number; seconds: number; allowed_s: number }[];
  }[];
  /** usual range by start watch */
  corridors: Record<string, Wire<Corridor> | null>;
  chain: { entries: number; intact: boolean };
  story: Story;
  /** other runs of this tail that it can be laid beside, newest first */
  others: { run: string; openedAt: string; outcome: RunOutcome | null }[];
  /** what the run added to the books; null while it is open */
  booking: Booking | null;
}

/** The context of a brief, its type by name. */
export type BriefContextMessage = Omit<BriefContext, 'type'> & {
  type: { id: string; version: number };
  openRun: string | null;
  /** the last report that was read for its site; null while there is none */
  siteReport: SiteToday['report'];
  /** conditions of the stand-in that is wired to it, null where none answers */
  simulated: string | null;
};

export interface TypeVersion {
  id: string;
  version: number;
  name: string;
  role: string;
}

/** How files of one header are read, null when nobody has said yet. */
export interface KeptMapping {
  mapping: CsvMapping | null;
}

export interface ApiError {
  error: { code: string; message: string; remedy: string; path?: string; expected?: number; run?: string };
}

/** nobody writes more in one run */
const MOST_BROUGHT = 5000;

/** A run that was written on a tablet while no server was there. */
export const broughtRunSchema = z.strictObject({
  run: z.uuid({ message: 'is not the id of a run' }),
  aircraft: z.uuid({ message: 'is not the id of an aircraft' }),
  type: z.strictObject({ id: z.string().max(20), version: z.int().min(1) }),
  openedAt: z.iso.datetime(),
  /** what the clock of the tablet says as it is sent */
  tabletNow: z.iso.datetime(),
  entries: z.array(z.record(z.string(), z.unknown())).min(2).max(MOST_BROUGHT),
});
export type BroughtRun = z.infer<typeof broughtRunSchema>;

/** What became of it. */
export interface RunTaken {
  run: string;
  /** it was here already */
  already: boolean;
  /** when another run of this aircraft was opened that goes over the same time, null where none does */
  overlaps: string | null;
}
