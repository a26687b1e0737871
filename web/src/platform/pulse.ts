import { useEffect, useState } from 'react';

/** Renders the calling component again every `period_ms`. @returns performance time of the last pulse */
export function usePulse(period_ms: number): number {
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => {
    const timer = window.setInterval(() => setNow(performance.now()), period_ms);
    return () => window.clearInterval(timer);
  }, [period_ms]);
  return now;
}

/** Wall clock, looked at again every `period_ms`. */
export function useWallClock(period_ms: number): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    const timer = window.setInterval(() => setNow(Date.now()), period_ms);
    return () => window.clearInterval(timer);
  }, [period_ms]);
  return now;
}
