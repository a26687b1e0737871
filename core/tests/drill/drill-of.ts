import type { WatchedType } from '@rouse/core/aircraft';
import { simulatedBrief } from '@rouse/core/brief';
import type { DrillOptions, Lesson } from '@rouse/core/drill';

/** A lesson on its own day. */
export function drillOf(type: WatchedType, lesson: Lesson, seed = 7): DrillOptions {
  return {
    type,
    lesson,
    seed,
    brief: simulatedBrief(
      type,
      type.standIn.find((p) => p.id === lesson.day)!,
    ),
  };
}
