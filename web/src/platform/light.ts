import { useSyncExternalStore } from 'react';

const QUERIES = ['(prefers-color-scheme: dark)', '(prefers-contrast: more)'];

function subscribe(changed: () => void): () => void {
  const lists = QUERIES.map((q) => window.matchMedia(q));
  const observer = new MutationObserver(changed);
  observer.observe(document.documentElement, { attributeFilter: ['data-light'] });
  for (const list of lists) list.addEventListener('change', changed);
  return () => {
    observer.disconnect();
    for (const list of lists) list.removeEventListener('change', changed);
  };
}

const present = (): string =>
  [document.documentElement.dataset['light'], ...QUERIES.map((q) => window.matchMedia(q).matches)].join(' ');

/** A word that changes whenever the colours do, by the setting or by the machine: draw a canvas again on it. */
export function useLight(): string {
  return useSyncExternalStore(subscribe, present);
}

/** The present value of a colour token, for canvas. */
export function tokenColour(name: string): string {
  return getComputedStyle(document.documentElement).getPropertyValue(name).trim();
}
