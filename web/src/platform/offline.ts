import { ANSWERS, USE_NOW } from './kept-answers.ts';

let waiting: ServiceWorker | null = null;
const listeners = new Set<() => void>();

/** A newer version of Rouse that is here and waits. */
export const newerVersion = {
  waits: (): boolean => waiting !== null,
  subscribe: (changed: () => void): (() => void) => {
    listeners.add(changed);
    return () => listeners.delete(changed);
  },
  /** Begins it: the page is loaded anew. */
  use: (): void => {
    navigator.serviceWorker.addEventListener('controllerchange', () => window.location.reload(), { once: true });
    waiting?.postMessage(USE_NOW);
  },
};

/** Keeps the pages and what the server answered last on this device, where the browser can. */
export function keepOnDevice(): void {
  if (!('serviceWorker' in navigator)) return;
  navigator.serviceWorker
    .register('/sw.js')
    .then((registration) => {
      const look = (): void => {
        waiting = navigator.serviceWorker.controller ? registration.waiting : null;
        for (const changed of listeners) changed();
      };
      registration.addEventListener('updatefound', () =>
        registration.installing?.addEventListener('statechange', look),
      );
      look();
    })
    // a private window, or a browser that keeps nothing: Rouse works as long as the server is there
    .catch(() => undefined);
}

/** Whether an answer is kept on this device. */
export const isKept = async (path: string): Promise<boolean> =>
  'caches' in window && (await (await window.caches.open(ANSWERS)).match(path)) !== undefined;

/** Whoever comes next on this device does not read what was answered to somebody else. */
export async function forgetAnswers(): Promise<void> {
  if ('caches' in window) await window.caches.delete(ANSWERS).catch(() => false);
}
