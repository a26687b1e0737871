import { z } from 'zod';

/** Commands of the stand-in's control port, one JSON object a line; each is answered by one line. */
export const standInCommandSchema = z.discriminatedUnion('cmd', [
  z.strictObject({ cmd: z.literal('reset'), preset: z.string(), seed: z.int().optional() }),
  z.strictObject({
    cmd: z.literal('move'),
    control: z.string(),
    to: z.union([z.number(), z.string()]),
    release_s: z.number().positive().optional(),
  }),
  /** off: the unit stays connected and says nothing, as one that has lost its power */
  z.strictObject({ cmd: z.literal('stream'), on: z.boolean() }),
  z.strictObject({ cmd: z.literal('state') }),
]);
export type StandInCommand = z.infer<typeof standInCommandSchema>;

export type StandInAnswer =
  | {
      ok: true;
      preset: string;
      streaming: boolean;
      /** the unit's clock, s, and the wall clock at its zero, ms */ t_s: number;
      epoch_ms: number;
    }
  | { ok: false; message: string };
