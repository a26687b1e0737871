import { reaching, stickShare, type StickSetting } from '@rouse/core/drill';
import { useEffect, useRef } from 'react';
import { keepStick, pluggedIn, stickOf } from './own-hands.ts';

/**
 * A hand on an axis of a game controller, as the browser gives it. An axis that goes beyond what it has shown before is
 * calibrated by that, device by device.
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
    let known: { device: string; setting: StickSetting } | null = null;
    const look = (): void => {
      const pad = pluggedIn();
      if (pad && known?.device !== pad.id) known = { device: pad.id, setting: stickOf(pad.id) };
      const shown = known && pad?.axes[known.setting.axis];
      if (known && shown !== undefined && shown !== null) {
        const { setting } = known;
        known.setting = reaching(shown, setting);
        if (known.setting !== setting) keepStick(known.device, known.setting);
        const share = stickShare(shown, known.setting);
        if (Number.isNaN(last)) last = share;
        else if (Math.abs(share - last) > setting.dead) {
          last = share;
          now.current?.(share);
        }
      }
      frame = requestAnimationFrame(look);
    };
    frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, [flies]);
}
