/** Keeps the screen on from now on, where the device can; it is asked again when the page comes back to the front. @returns how to let it sleep */
export function stayAwake(): () => void {
  let lock: WakeLockSentinel | null = null;
  let over = false;
  const ask = (): void => {
    if (over || document.visibilityState !== 'visible' || !('wakeLock' in navigator)) return;
    navigator.wakeLock
      .request('screen')
      .then((got) => {
        if (over) return got.release();
        lock = got;
        return undefined;
      })
      // an empty battery, or a browser that does not let it: the screen does as the device wants
      .catch(() => undefined);
  };
  ask();
  document.addEventListener('visibilitychange', ask);
  return () => {
    over = true;
    document.removeEventListener('visibilitychange', ask);
    void lock?.release();
  };
}

/** Felt in a pocket or through a glove: twice, short. Phones only, and only where the page was touched: a browser refuses before. */
export function shake(): void {
  if ('vibrate' in navigator && navigator.userActivation?.hasBeenActive) navigator.vibrate([180, 90, 180]);
}
