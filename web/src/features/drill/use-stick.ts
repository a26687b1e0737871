import { useEffect, useRef } from 'react';
import { readSetting, writeSetting } from '../../platform/storage.ts';

/** a stick that rests is not a hand */
const DEAD = 0.04;

/** How the axis of one device is read: what it has shown at its ends. */
interface Reach {
  least: number;
  most: number;
}
const WHOLE: Reach = { least: -1, most: 1 };

const keptAs = (device: string): string => `stick.${device}`;

function reachOf(device: string): Reach {
  const kept = readSetting(keptAs(device))?.split(' ').map(Number) ?? [];
  const [least, most] = kept;
  return least !== undefined && most !== undefined && most - least > 2 * DEAD ? { least, most } : WHOLE;
}

/**
 * A hand on the second axis of a game controller, as the browser gives it: pulled up is more. An axis that goes beyond
 * what it has shown before is calibrated by that, device by device.
 * @param set takes 0 to 1 while a hand moves it; null while nothing flies
 */
export function useStick(set: ((share: number) => void) | null): void {
  const now = useRef(set);
  useEffect(() => {
    now.current = set;
  });
  const flies = set !== null;
  useEffect(() => {
    if (!flies) return;
    let frame = 0;
    let last = NaN;
    let known: { device: string; reach: Reach } | null = null;
    const look = (): void => {
      const pad = navigator.getGamepads().find((p) => p !== null);
      const axis = pad?.axes[1];
      if (pad && axis !== undefined) {
        if (known?.device !== pad.id) known = { device: pad.id, reach: reachOf(pad.id) };
        const { reach } = known;
        if (axis < reach.least || axis > reach.most) {
          known.reach = { least: Math.min(axis, reach.least), most: Math.max(axis, reach.most) };
          writeSetting(keptAs(pad.id), `${known.reach.least} ${known.reach.most}`);
        }
        // the axis of a stick is negative where it is pulled up
        const share = (known.reach.most - axis) / (known.reach.most - known.reach.least);
        if (Number.isNaN(last)) last = share;
        else if (Math.abs(share - last) > DEAD) {
          last = share;
          now.current?.(Math.min(1, Math.max(0, share)));
        }
      }
      frame = requestAnimationFrame(look);
    };
    frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, [flies]);
}
