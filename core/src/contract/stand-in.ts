import { z } from 'zod';
import { standInActionSchema } from '../aircraft/index.ts';

const share = z.number().min(0).max(1);

export const lineSchema = z.strictObject({
  format: z.enum(['json', 'nmea']),
  transport: z.enum(['tcp', 'udp']),
  /** shares of the lines that are lost, sent twice, or arrive with a wrong character, and how late all of them are */
  drop: share,
  repeat: share,
  corrupt: share,
  delay_ms: z.number().min(0).max(5000),
});
export type StandInLine = z.infer<typeof lineSchema>;
export type LineFaults = Omit<StandInLine, 'format' | 'transport'>;

export const CLEAN_LINE: StandInLine = {
  format: 'json',
  transport: 'tcp',
  drop: 0,
  repeat: 0,
  corrupt: 0,
  delay_ms: 0,
};

export const PACES = [1, 2, 4, 8, 16] as const;
export const paceSchema = z.union(PACES.map((p) => z.literal(p)));
export type Pace = (typeof PACES)[number];

/** `type` names the unit, by the type of its aircraft; the first one without it. */
const unit = { type: z.string().optional() };

/** Commands of the stand-in's control port, one JSON object a line. */
export const standInCommandSchema = z.discriminatedUnion('cmd', [
  z.strictObject({ ...unit, cmd: z.literal('reset'), preset: z.string(), seed: z.int().optional() }),
  /** what one act of a pilot moves, all of it in the same moment */
  z.strictObject({ ...unit, cmd: z.literal('move'), actions: z.array(standInActionSchema).min(1) }),
  /** off: the unit stays connected and says nothing, as one that has lost its power */
  z.strictObject({ ...unit, cmd: z.literal('stream'), on: z.boolean() }),
  z.strictObject({ ...unit, cmd: z.literal('line'), ...lineSchema.partial().shape }),
  /** how many times faster than life the simulated aircraft lives */
  z.strictObject({ ...unit, cmd: z.literal('pace'), times: paceSchema }),
  z.strictObject({ ...unit, cmd: z.literal('state') }),
]);
export type StandInCommand = z.infer<typeof standInCommandSchema>;

export type StandInAnswer =
  | {
      ok: true;
      type: string;
      preset: string;
      streaming: boolean;
      line: StandInLine;
      pace: Pace;
      /** the unit's clock, s, and the wall clock at its zero, ms */
      t_s: number;
      epoch_ms: number;
    }
  | { ok: false; message: string };
