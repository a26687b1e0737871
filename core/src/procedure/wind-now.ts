import { z } from 'zod';

const maybe = z.number().nullable();

/** The wind of this minute, as somebody reads it off the sock or hears it: true direction, null where it is variable. */
export const windNowSchema = z.strictObject({
  direction_deg: maybe,
  speed_kt: z.number().min(0).max(150),
  gust_kt: maybe,
});
export type WindNow = z.infer<typeof windNowSchema>;
