import type { TypeFile } from '@rouse/core/aircraft';
import { boardOf, heldByTemperature, type HeldMap } from './board-figures.ts';
import type { BoardAnswer, ToBoard } from './messages.ts';

let type: TypeFile;
let held: HeldMap | null = null;

/** Works out one what-if after the other; the weights of the map only when altitude or engines are others. */
self.addEventListener('message', ({ data }: MessageEvent<ToBoard>) => {
  if (data.kind === 'begin') {
    type = data.type;
    return;
  }
  const { what } = data;
  if (held?.pa_ft !== what.pa_ft || held.margin_C !== what.margin_C) held = heldByTemperature(type, what);
  self.postMessage({ board: boardOf(type, what), held } satisfies BoardAnswer);
});
