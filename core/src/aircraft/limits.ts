import { z } from 'zod';

export const PHASES = ['off', 'start', 'idle', 'run-up', 'flight'] as const;
const phaseSchema = z.enum(PHASES);
export type Phase = z.infer<typeof phaseSchema>;

const severitySchema = z.enum(['note', 'caution', 'warning']);
export type Severity = z.infer<typeof severitySchema>;

const bandBase = {
  id: z.string(),
  /** time allowed inside; 0 is never */
  forSeconds: z.number().min(0),
  counting: z.enum(['continuous', 'cumulative']),
  inclusive: z.boolean().optional(),
  severity: severitySchema,
  action: z.string(),
};
const bandSchema = z.union([
  z.strictObject({ ...bandBase, above: z.number() }),
  z.strictObject({ ...bandBase, below: z.number() }),
]);
export type LimitBand = z.infer<typeof bandSchema>;

/** What one channel may do in some phases: bands from mild to severe, all on the same side. */
export const limitSchema = z.strictObject({
  id: z.string(),
  channel: z.string(),
  phases: z.array(phaseSchema).min(1),
  hysteresis: z.number().min(0),
  /** a test that moves this channel sets the limit aside, until so long after it is back */
  notWhile: z
    .strictObject({
      channel: z.string(),
      above: z.number().optional(),
      below: z.number().optional(),
      andFor_s: z.number().min(0),
    })
    .refine((n) => (n.above === undefined) !== (n.below === undefined), { message: 'either above or below' })
    .optional(),
  bands: z.array(bandSchema).min(1),
});
export type Limit = z.infer<typeof limitSchema>;

export function bandEdge(band: LimitBand): number {
  return 'above' in band ? band.above : band.below;
}

/** Words of a band: "8 s above 770", "never above 900 °C". */
export function bandWords(band: LimitBand, unit: string): string {
  const side = 'above' in band ? 'above' : 'below';
  return band.forSeconds === 0
    ? `never ${side} ${bandEdge(band)} ${unit}`
    : `${band.forSeconds} s ${side} ${bandEdge(band)}`;
}
