import { getJson } from '../platform/api.ts';
import { reach } from '../platform/reach.ts';

const EVERY_MS = 5000;

/** While no server is reached it is asked for again and again: a page that asks nothing itself learns that it is back. @returns how to stop it */
export function lookAgainWhileAway(): () => void {
  const timer = window.setInterval(() => {
    if (reach.now().awaySince_ms !== null) void getJson('/session').catch(() => undefined);
  }, EVERY_MS);
  return () => window.clearInterval(timer);
}
