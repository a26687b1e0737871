import type { Trace } from '@rouse/core/trace';

/** The same start of another run of the tail. */
export interface OtherStart {
  features: Record<string, number | null>;
  trace: Trace;
  /** when it was */
  words: string;
}
