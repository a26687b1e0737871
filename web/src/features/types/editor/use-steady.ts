import { useCallback, useLayoutEffect, useRef } from 'react';

/** A function that stays the same one for whoever holds it, and does what is meant now. */
export function useSteady<A extends unknown[]>(work: (...args: A) => void): (...args: A) => void {
  const latest = useRef(work);
  useLayoutEffect(() => {
    latest.current = work;
  });
  return useCallback((...args: A) => latest.current(...args), []);
}
