import { z } from 'zod';
import type { Item } from '../aircraft/index.ts';
import { carburettorIcing } from '../thermal/index.ts';
import type { BriefRecord } from './entries.ts';

const airSchema = z.looseObject({
  oat_C: z.number().nullable().default(null),
  dew_C: z.number().nullable().default(null),
});

/** What the rule of a decision says for the air of this brief: the answer, and the reason in words; null without a rule. */
export function ruledAnswer(item: Item, brief: BriefRecord | null): { alternative: string; words: string } | null {
  if (item.kind !== 'decide' || !item.rule) return null;
  const air = airSchema.safeParse(brief?.input ?? {});
  const { oat_C, dew_C } = air.success ? air.data : { oat_C: null, dew_C: null };
  const { expected, words } = carburettorIcing(oat_C, dew_C, item.rule.cooling_K);
  return { alternative: expected ? item.rule.expected : item.rule.otherwise, words };
}
