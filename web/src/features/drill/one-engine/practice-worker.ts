import { FRAME_HEADER, packFrame } from '@rouse/core/contract';
import { OneEnginePractice } from '@rouse/core/drill';
import type { RatingEvent } from '@rouse/core/ratings';
import type { FromPractice, ToPractice } from './messages.ts';

const TICK_MS = 20;
const POST_EVERY_MS = 40;
/** a page that slept does not fall out of the sky while nobody looked */
const MAX_BEHIND_MS = 200;

let flight: OneEnginePractice | null = null;
let timer = 0;
let flown_ms = 0;
const events: RatingEvent[] = [];
const frames: Float64Array[] = [];

function post(): void {
  if (!flight) return;
  const width = FRAME_HEADER + flight.frame.length;
  const packed = new Float64Array(width * frames.length);
  frames.forEach((f, i) => packed.set(f, i * width));
  frames.length = 0;
  self.postMessage({
    kind: 'flown',
    frames: packed,
    now: flight.now(),
    events: events.splice(0),
  } satisfies FromPractice);
}

/** Lives in real time: as many periods as have gone by since the last look. */
function live(): void {
  if (!flight) return;
  const now_ms = performance.now();
  if (now_ms - flown_ms > MAX_BEHIND_MS) flown_ms = now_ms - MAX_BEHIND_MS;
  let flies = true;
  while (flies && flown_ms + TICK_MS <= now_ms) {
    flown_ms += TICK_MS;
    flies = flight.tick();
    const frame = new Float64Array(FRAME_HEADER + flight.frame.length);
    packFrame(frame, flight.t_s, flight.t_s, flight.frame);
    frames.push(frame);
  }
  post();
  if (!flies) self.clearInterval(timer);
}

self.addEventListener('message', ({ data }: MessageEvent<ToPractice>) => {
  switch (data.kind) {
    case 'begin':
      self.clearInterval(timer);
      events.length = 0;
      frames.length = 0;
      flight = new OneEnginePractice(data.type, data.start, data.seed, (e) => events.push(e));
      flown_ms = performance.now();
      timer = self.setInterval(live, POST_EVERY_MS);
      return;
    case 'collective':
      return flight?.setCollective(data.to);
    case 'collective-by':
      return flight?.moveCollective(data.by);
    case 'hand-back':
      return flight?.handBack();
    case 'training':
      return flight?.setTraining(data.on);
    case 'limiter':
      return flight?.setLimiter(data.limiter);
    case 'fail':
      return flight?.fail(data.engine);
    case 'end':
      self.clearInterval(timer);
      flight = null;
      return;
  }
});
