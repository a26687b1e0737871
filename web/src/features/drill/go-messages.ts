import type { WatchedType } from '@rouse/core/aircraft';
import type { Decided } from '@rouse/core/drill';
import type { WatchSnapshot } from '@rouse/core/watch';

export type ToGo =
  | { kind: 'prepare'; type: WatchedType }
  /** deals the next start and lets it run */
  | { kind: 'deal'; seed: number; difficulty: number }
  | { kind: 'stop' };

export type FromGo =
  | { kind: 'prepared' }
  | { kind: 'running'; t_s: number; frames: Float64Array; watch: WatchSnapshot }
  | { kind: 'decided'; decided: Decided };
