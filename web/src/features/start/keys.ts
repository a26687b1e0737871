import { useEffect } from 'react';
import { type Binding, bindKeys } from '../../platform/keys.ts';
import { type Pilot, usePilot } from './pilot.ts';

/** Keys that begin what follows when everything before is done. */
export const LEG_KEYS = { next: 'L', last: 'X' } as const;

interface RunKeys {
  asking: boolean;
  ask: (note: 'fault' | 'skip') => void;
  closeAsking: () => void;
  toggleWhy: () => void;
  toggleHelp: () => void;
  toggleReckon: () => void;
}

const MEANWHILE = [1, 2, 3, 4, 5, 6, 7, 8, 9];

/** Every key of a run: what binds them, and what the page of keys shows. */
function bindingsOf(
  pilot: Pilot,
  { asking, ask, closeAsking, toggleWhy, toggleHelp, toggleReckon }: RunKeys,
): Binding[] {
  const letter = (key: string, says: string, run: () => void): Binding => ({
    keys: [key, `Shift+${key.toUpperCase()}`],
    shown: key.toUpperCase(),
    says,
    run,
  });
  return [
    { keys: ['Space'], shown: 'Space', says: 'seen or done', run: () => void pilot.seen() },
    letter('f', 'fault, with a note', () => ask('fault')),
    letter('k', 'skip, with a reason', () => ask('skip')),
    letter('w', 'why', toggleWhy),
    letter('m', 'mark the moment', () => void pilot.mark()),
    letter('b', 'back to the last item', () => void pilot.back()),
    letter('u', 'undo', () => void pilot.undo()),
    ...MEANWHILE.map((n) => ({
      keys: [String(n)],
      shown: '1–9',
      says: 'take a meanwhile item',
      run: () => void pilot.choose(n - 1),
    })),
    letter('i', 'interrupted: look at the last two again', () => void pilot.interrupt()),
    letter('d', 'it was not as the flow had left it; right now', () => void pilot.differed()),
    letter('s', 'move it on the stand-in', () => void pilot.moveStandIn()),
    letter('c', 'reckon: density altitude, wind, power, fuel', toggleReckon),
    letter('l', 'lift', () => void pilot.beginLeg('next')),
    letter('x', 'shut down', () => void pilot.beginLeg('last')),
    letter('v', 'voice', pilot.toggleVoice),
    { keys: ['Escape'], shown: 'Esc', says: 'stop the start', run: asking ? closeAsking : () => void pilot.abort() },
    { keys: ['?', 'Shift+?'], shown: '?', says: 'these keys', run: toggleHelp },
  ];
}

/** One key per action while a run is on. @returns what each key does, once, for the page of keys */
export function useRunKeys(keys: RunKeys): readonly Pick<Binding, 'shown' | 'says'>[] {
  const pilot = usePilot();
  const bindings = bindingsOf(pilot, keys);
  useEffect(() => bindKeys(bindings));
  return bindings.filter((b, i) => bindings.findIndex((other) => other.shown === b.shown) === i);
}
