import type { TypeFile } from '@rouse/core/aircraft';
import { boardOf, heldByTemperature, type HeldWeights } from './board.ts';
import type { BoardAnswer, ToBoard } from './messages.ts';

let type: TypeFile;
let heldAt_ft = NaN;
let held: HeldWeights[] = [];

/** Works out one what-if after the other; the weights of the map only when the altitude is another. */
self.addEventListener('message', ({ data }: MessageEvent<ToBoard>) => {
  if (data.kind === 'begin') {
    type = data.type;
    return;
  }
  const { what } = data;
  if (what.pa_ft !== heldAt_ft) {
    held = heldByTemperature(type, what.pa_ft);
    heldAt_ft = what.pa_ft;
  }
  self.postMessage({ board: boardOf(type, what), held } satisfies BoardAnswer);
});
