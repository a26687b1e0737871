import { z } from 'zod';

const test = {
  channel: z.string(),
  /** the difference to this channel is meant */
  minus: z.string().optional(),
  /** one lamp of a channel of captions: 1 when it is lit */
  bit: z.int().min(0).max(40).optional(),
  /** dwell: seconds that it must hold without a break */
  for: z.number().positive().optional(),
};

const channelTestSchema = z.union([
  z.strictObject({ ...test, atLeast: z.number() }),
  z.strictObject({ ...test, atMost: z.number() }),
  z.strictObject({ ...test, above: z.number() }),
  z.strictObject({ ...test, below: z.number() }),
  z.strictObject({ ...test, between: z.tuple([z.number(), z.number()]) }),
  z.strictObject({ ...test, is: z.number() }),
]);
export type ChannelTest = z.infer<typeof channelTestSchema>;

export type Condition = ChannelTest | { all: Condition[] } | { any: Condition[] } | { not: Condition };

/** A statement about channels as data: shown in words, checked by this schema, evaluated to true, false or unknown. */
export const conditionSchema: z.ZodType<Condition> = z.lazy(() =>
  z.union([
    channelTestSchema,
    z.strictObject({ all: z.array(conditionSchema).min(1) }),
    z.strictObject({ any: z.array(conditionSchema).min(1) }),
    z.strictObject({ not: conditionSchema }),
  ]),
);
