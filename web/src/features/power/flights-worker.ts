import { flyEngineFailure } from '@rouse/core/simulator';
import type { FromFlights, ToFlights } from './messages.ts';

const post = (message: FromFlights): void => self.postMessage(message);

/** Flies its points one after the other; it is stopped by ending the worker. */
self.addEventListener('message', ({ data: { parameters, points } }: MessageEvent<ToFlights>) => {
  for (const { index, at } of points) {
    const { holds, lost_m, climb_mps } = flyEngineFailure(parameters, at);
    post({ kind: 'flown', index, holds, lost_m, climb_mps });
  }
  post({ kind: 'done' });
});
