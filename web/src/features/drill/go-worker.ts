import type { WatchedType } from '@rouse/core/aircraft';
import { FRAME_HEADER, packFrame } from '@rouse/core/contract';
import { type BadDays, badDaysOf, type Deal, dealStart, DealtStart, decide, SHOWN_S, type StartTruth, truthOf } from '@rouse/core/drill'; // oxfmt-ignore
import { snapshotOf, Watch } from '@rouse/core/watch';
import type { FromGo, ToGo } from './go-messages.ts';

const TICK_MS = 20;
const BEAT_MS = 20;
const MAX_BEHIND_MS = 200;

let type: WatchedType | null = null;
let bad: BadDays = [];
let dealt: { deal: Deal; truth: StartTruth; start: DealtStart; watch: Watch } | null = null;
let timer = 0;
let flown_ms = 0;

const post = (message: FromGo): void => self.postMessage(message);

function deal(seed: number, difficulty: number): void {
  if (!type) return;
  self.clearInterval(timer);
  const drawn = dealStart(type, bad, seed, difficulty);
  // it draws the start as in life; what it would say is the learner's to see
  const watch = new Watch(type, {}, () => undefined);
  dealt = { deal: drawn, truth: truthOf(type, drawn), start: new DealtStart(type, drawn), watch };
  flown_ms = performance.now();
  timer = self.setInterval(live, BEAT_MS);
}

function live(): void {
  if (!type || !dealt) return;
  const now_ms = performance.now();
  if (now_ms - flown_ms > MAX_BEHIND_MS) flown_ms = now_ms - MAX_BEHIND_MS;
  const due = Math.floor((now_ms - flown_ms) / TICK_MS);
  const width = FRAME_HEADER + type.channels.length;
  const frames = new Float64Array(width * due);
  const { start, watch } = dealt;
  let done = 0;
  for (; done < due && start.t_s < SHOWN_S; done++) {
    flown_ms += TICK_MS;
    const frame = start.tick();
    watch.step(start.t_s, frame);
    packFrame(frames.subarray(done * width, (done + 1) * width), start.t_s, start.t_s, frame);
  }
  if (done > 0)
    post({ kind: 'running', t_s: start.t_s, frames: frames.subarray(0, done * width), watch: snapshotOf(watch, type) });
  if (start.t_s >= SHOWN_S) decided(null);
}

function decided(stopped_s: number | null): void {
  if (!type || !dealt) return;
  self.clearInterval(timer);
  const { deal: drawn, truth } = dealt;
  dealt = null;
  post({ kind: 'decided', decided: decide(type, drawn, truth, stopped_s) });
}

self.addEventListener('message', ({ data }: MessageEvent<ToGo>) => {
  switch (data.kind) {
    case 'prepare':
      type = data.type;
      bad = badDaysOf(data.type);
      return post({ kind: 'prepared' });
    case 'deal':
      return deal(data.seed, data.difficulty);
    case 'stop':
      return decided(dealt?.start.t_s ?? null);
  }
});
