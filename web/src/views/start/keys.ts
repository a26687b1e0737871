import { useEffect } from 'react';
import { usePilot } from './pilot.ts';

export const RUN_KEYS: readonly [string, string][] = [
  ['Space', 'seen or done'],
  ['F', 'fault, with a note'],
  ['K', 'skip, with a reason'],
  ['W', 'why'],
  ['M', 'mark the moment'],
  ['B', 'back to the last item'],
  ['U', 'undo'],
  ['1–9', 'take a meanwhile item'],
  ['I', 'interrupted: look at the last two again'],
  ['D', 'it was not as the flow had left it; right now'],
  ['S', 'move it on the stand-in'],
  ['L', 'lift'],
  ['X', 'shut down'],
  ['V', 'voice'],
  ['Esc', 'stop the start'],
  ['?', 'these keys'],
];

/** Keys that begin what follows when everything before is done. */
export const LEG_KEYS = { next: 'L', last: 'X' } as const;

interface RunKeys {
  asking: boolean;
  ask: (note: 'fault' | 'skip') => void;
  closeAsking: () => void;
  toggleWhy: () => void;
  toggleHelp: () => void;
}

/** One key per action while a run is on; keys typed into a field stay there. */
export function useRunKeys({ asking, ask, closeAsking, toggleWhy, toggleHelp }: RunKeys): void {
  const pilot = usePilot();
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.altKey || event.metaKey || event.repeat) return;
      const target = event.target as HTMLElement;
      if (target.matches('input, textarea, select, [contenteditable]')) return;
      // a control that was reached with Tab keeps its own Space
      if (event.key === ' ' && target.matches('button:focus-visible, a:focus-visible')) return;
      const act = actionOf(event.key);
      if (!act) return;
      event.preventDefault();
      act();
    };
    const actionOf = (key: string): (() => void) | null => {
      if (/^[1-9]$/.test(key)) return () => void pilot.choose(Number(key) - 1);
      switch (key.toLowerCase()) {
        case ' ':
          return () => void pilot.seen();
        case 'f':
          return () => ask('fault');
        case 'k':
          return () => ask('skip');
        case 'w':
          return toggleWhy;
        case 'm':
          return () => void pilot.mark();
        case 'b':
          return () => void pilot.back();
        case 'u':
          return () => void pilot.undo();
        case 'i':
          return () => void pilot.interrupt();
        case 'd':
          return () => void pilot.differed();
        case 's':
          return () => void pilot.moveStandIn();
        case 'l':
          return () => void pilot.beginLeg('next');
        case 'x':
          return () => void pilot.beginLeg('last');
        case 'v':
          return () => pilot.toggleVoice();
        case 'escape':
          return asking ? closeAsking : () => void pilot.abort();
        case '?':
          return toggleHelp;
        default:
          return null;
      }
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [pilot, asking, ask, closeAsking, toggleWhy, toggleHelp]);
}
