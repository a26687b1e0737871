import type { WatchedType } from '@rouse/core/aircraft';
import type { Act, Change, TimedAct, WhatIf } from '@rouse/core/drill';
import { findItem } from '@rouse/core/procedure';
import { type WhatIfDrawn, WhatIfPanel } from '../../charts/what-if.tsx';
import { stopwatch } from '../../ui/words.ts';

const TICKS_PER_S = 50;

interface WhatIfOfDrillProps {
  type: WatchedType;
  acts: readonly TimedAct[];
  begun_s: number;
  what: WhatIf | 'asked' | null;
  ask: (change: Change) => void;
}

/** What if I had not, of the drill that was just flown. */
export function WhatIfOfDrill({ type, acts, begun_s, what, ask }: WhatIfOfDrillProps) {
  const choices = acts.flatMap(({ tick, act }, i) => {
    const words = sayAct(type, act);
    return words === null ? [] : [{ i, words: `${stopwatch(Math.max(0, tick / TICKS_PER_S - begun_s))} ${words}` }];
  });
  const answer = what === null || what === 'asked' ? what : drawn(type, what);
  const legend = 'over seconds of the lesson: as it was, and dashed as it would have been.';
  return <WhatIfPanel acts={choices} begun_s={begun_s} legend={legend} answer={answer} ask={ask} />;
}

function drawn(type: WatchedType, { channel, was, would, differs_s, words }: WhatIf): WhatIfDrawn {
  const { label, unit } = type.channels.find((c) => c.id === channel)!;
  const line = (of: WhatIf['was'], how: 'was' | 'would') => ({ t_s: of.t_s, values: of.columns[0]!, how });
  return { label, unit, words, differs_s, lines: [line(was, 'was'), line(would, 'would')] };
}

function sayAct(type: WatchedType, act: Act): string | null {
  switch (act.kind) {
    case 'move': {
      const control = type.cockpit?.find((c) => c.id === act.control);
      const place = control?.positions.find((p) => p.to === act.to)?.label;
      return control && place !== undefined ? `${control.label} ${place}` : null;
    }
    case 'look':
      return findItem(type, act.item)?.challenge ?? null;
    case 'stop':
      return 'Stop';
    default:
      return null;
  }
}
