import { type RefObject, useEffect, useRef, useState } from 'react';

export interface Size {
  width: number;
  height: number;
}

/** Watches the size of an element. @returns the ref to put on it and its size, zero before the first layout */
export function useSize<T extends HTMLElement>(): [RefObject<T | null>, Size] {
  const ref = useRef<T>(null);
  const [size, setSize] = useState<Size>({ width: 0, height: 0 });
  useEffect(() => {
    const element = ref.current;
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      const box = entry!.contentRect;
      setSize({ width: Math.round(box.width), height: Math.round(box.height) });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  return [ref, size];
}

/** Whether an element has a place on the screen; it has none before the first layout. @returns the ref to put on it, too */
export function useShown<T extends HTMLElement>(): [RefObject<T | null>, boolean] {
  const [ref, { width }] = useSize<T>();
  return [ref, width > 0];
}

/** Sizes a canvas for the screen's pixels and clears it. @returns a context in CSS pixels, or null before layout */
export function prepareCanvas(canvas: HTMLCanvasElement | null, size: Size): CanvasRenderingContext2D | null {
  const context = canvas?.getContext('2d');
  if (!canvas || !context || size.width === 0) return null;
  const ratio = window.devicePixelRatio || 1;
  const width = Math.round(size.width * ratio);
  const height = Math.round(size.height * ratio);
  if (canvas.width !== width || canvas.height !== height) {
    canvas.width = width;
    canvas.height = height;
  }
  context.setTransform(ratio, 0, 0, ratio, 0, 0);
  context.clearRect(0, 0, size.width, size.height);
  return context;
}
