import { useEffect, useEffectEvent } from 'react';
import { useAppSelector } from '../../app/store.ts';
import { onHeadsetButton } from '../../platform/headset.ts';
import { hearsOnDevice, listenFor } from '../../platform/hearing.ts';
import { usePilot } from './pilot.ts';

/** The three words, and one button, that answer without a hand on the device; only where the settings say so. */
export function useSpokenAnswers(open: boolean, ask: (note: 'fault') => void): void {
  const answers = useAppSelector((s) => s.settings.answers);
  const pilot = usePilot();
  const heard = useEffectEvent((word: 'seen' | 'fault' | 'stop') => {
    if (word === 'seen') void pilot.seen();
    else if (word === 'stop') void pilot.abort();
    else ask('fault');
  });
  useEffect(() => {
    if (!open || answers === 'hand') return undefined;
    if (answers === 'headset') return onHeadsetButton(() => heard('seen'));
    let [gone, stop] = [false, (): void => undefined];
    // what is said is heard by this device alone, or by nobody
    void hearsOnDevice().then((can) => {
      if (can && !gone) stop = listenFor(['seen', 'fault', 'stop'], (word) => heard(word));
    });
    return () => {
      gone = true;
      stop();
    };
  }, [open, answers]);
}
