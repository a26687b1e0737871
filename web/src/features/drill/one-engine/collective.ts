import { useEffect } from 'react';
import { useStick } from '../use-stick.ts';
import { type Binding, bindKeys } from '../../../platform/keys.ts';

const STEP = 0.015;

export interface CollectiveHand {
  set: (to: number) => void;
  /** from where it is */
  move: (by: number) => void;
}

/**
 * The collective by keys and by a game controller: arrows up and down move it by a step, the first throttle-like axis
 * sets it. @param hand null while nothing flies
 */
export function useCollective(hand: CollectiveHand | null): void {
  useEffect(() => {
    if (!hand) return;
    const move = (keys: string, shown: string, step: number): Binding[] => [
      { keys: [keys], shown, says: 'collective', run: () => hand.move(step), held: true },
      { keys: [`Shift+${keys}`], shown, says: 'collective, faster', run: () => hand.move(3 * step), held: true },
    ];
    return bindKeys([...move('ArrowUp', '↑', STEP), ...move('ArrowDown', '↓', -STEP)]);
  }, [hand]);

  useStick(hand && hand.set);
}
