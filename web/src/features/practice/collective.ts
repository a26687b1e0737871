import { useEffect } from 'react';
import { type Binding, bindKeys } from '../../platform/keys.ts';

const STEP = 0.015;
/** a stick that rests is not a hand */
const DEAD = 0.04;

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

  useEffect(() => {
    if (!hand) return;
    let frame = 0;
    let last = NaN;
    const look = (): void => {
      const axis = navigator.getGamepads().find((p) => p !== null)?.axes[1];
      // pulled up is more: the axis of a stick is negative there
      if (axis !== undefined) {
        const to = (1 - axis) / 2;
        if (Number.isNaN(last)) last = to;
        else if (Math.abs(to - last) > DEAD) {
          last = to;
          hand.set(to);
        }
      }
      frame = requestAnimationFrame(look);
    };
    frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, [hand]);
}
