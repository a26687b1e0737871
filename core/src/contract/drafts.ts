import { z } from 'zod';
import { tailSchema } from './people.ts';

const FILE = /^(?:(?:procedure|charts)\/)?[a-z0-9-]+\.(?:yaml|csv)$/;
/** larger than any file of a type */
const LONGEST_TEXT = 40_000;

/** A type that is being written: begun like another, kept with every edit, released by a second person. */
export interface TypeDraftRow {
  draft: string;
  typeId: string;
  /** the version that it will be */
  version: number;
  name: string;
  /** the version that it began with, null for a new type */
  basedOn: number | null;
  status: 'open' | 'in-review' | 'released';
  begunBy: string;
  begunAt: string;
  sentBy: string | null;
}

export interface DraftEdit {
  revision: number;
  file: string;
  /** null: the file is gone */
  text: string | null;
  by: string;
  at: string;
}

/** A draft as it stands, or what has changed since a revision. */
export interface TypeDraft extends TypeDraftRow {
  revision: number;
  edits: DraftEdit[];
}

/** What every type can take from: standard items, and the folders that others extend. */
export type TypeLibrary = Record<string, Record<string, string>>;

/** A start that is kept with its frames: what a draft can be tried on. */
export interface StoredStart {
  run: string;
  tail: string;
  at: string;
  /** the version of the type that it was recorded with */
  version: number;
  watch: string;
  attempt: number;
  /** run clock */
  starterAt_s: number;
}

export const newDraftSchema = z.strictObject({
  /** the folder that it begins like */
  like: z.string().regex(/^[\w-]+$/),
  /** id and name of a new type; left out where the same type is written on */
  id: z
    .string()
    .regex(/^[A-Za-z0-9]{1,12}$/, 'is one to twelve letters and digits')
    .optional(),
  name: z.string().trim().min(1).max(60).optional(),
});
export type NewDraft = z.infer<typeof newDraftSchema>;

export const draftEditSchema = z.strictObject({
  file: z.string().regex(FILE, 'is the name of no file of a type'),
  text: z.string().max(LONGEST_TEXT).nullable(),
  /** the revision in which the writer has seen this file */
  seen: z.int().min(0),
});
export type NewDraftEdit = z.infer<typeof draftEditSchema>;

export const newAircraftSchema = z.strictObject({
  tail: tailSchema,
  type: z.string(),
  version: z.int().min(1),
  /** where it stands */
  pad: z.string(),
});

export type NewAircraft = z.infer<typeof newAircraftSchema>;

export const moveTailSchema = z.strictObject({ aircraft: z.uuid(), version: z.int().min(1) });
