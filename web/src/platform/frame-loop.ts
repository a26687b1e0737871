import { useEffect, useRef } from 'react';

/** Calls `paint` once per animation frame, outside React. */
export function useFrameLoop(paint: (now_ms: number) => void): void {
  const latest = useRef(paint);
  useEffect(() => {
    latest.current = paint;
  });
  useEffect(() => {
    let handle = 0;
    const loop = (now_ms: number): void => {
      latest.current(now_ms);
      handle = requestAnimationFrame(loop);
    };
    handle = requestAnimationFrame(loop);
    return () => cancelAnimationFrame(handle);
  }, []);
}
