import { simulatedBrief } from '@rouse/core/brief';
import { FRAME_HEADER, packFrame } from '@rouse/core/contract';
import { bestHandOf, type Change, DrillFlight, type DrillOptions, marksOf, viewOf, whatIf } from '@rouse/core/drill';
import { columnOf, decimate, rowAt, type Trace } from '@rouse/core/trace';
import type { FromDrill, ToDrill } from './messages.ts';

const TICK_MS = 20;
const BEAT_MS = 20;
/** the list, the marks and the positions are looked at so often */
const VIEW_EVERY_MS = 100;
/** a page that slept does not burn its engine while nobody looked */
const MAX_BEHIND_MS = 200;

let flight: DrillFlight | null = null;
let options: DrillOptions | null = null;
let timer = 0;
let flown_ms = 0;
let viewed_ms = 0;
let frozen = false;

const post = (message: FromDrill): void => self.postMessage(message);

function begin({ type, lesson, seed }: Extract<ToDrill, { kind: 'begin' }>): void {
  self.clearInterval(timer);
  const preset = type.standIn.find((p) => p.id === lesson.day) ?? type.standIn[0]!;
  options = { type, lesson, seed, brief: simulatedBrief(type, preset) };
  flight = new DrillFlight(options);
  post({ kind: 'ready', entries: [...flight.session.entries], t_s: flight.t_s });
  frozen = false;
  viewed_ms = 0;
  flown_ms = performance.now();
  timer = self.setInterval(live, BEAT_MS);
}

/** Lives in real time: as many periods as have gone by since the last look. */
function live(): void {
  if (!flight || frozen) return;
  const now_ms = performance.now();
  if (now_ms - flown_ms > MAX_BEHIND_MS) flown_ms = now_ms - MAX_BEHIND_MS;
  const due = Math.floor((now_ms - flown_ms) / TICK_MS);
  const width = FRAME_HEADER + flight.frame.length;
  const frames = new Float64Array(width * due);
  let flies = true;
  let done = 0;
  for (; flies && done < due; done++) {
    flown_ms += TICK_MS;
    flies = flight.step();
    packFrame(frames.subarray(done * width, (done + 1) * width), flight.t_s, flight.t_s, flight.frame);
  }
  show(frames.subarray(0, done * width), now_ms);
  if (!flies) over();
}

function show(frames: Float64Array, now_ms: number): void {
  if (!flight) return;
  const looks = now_ms - viewed_ms >= VIEW_EVERY_MS;
  if (looks) viewed_ms = now_ms;
  if (frames.length === 0 && !looks) return;
  const view = looks ? viewOf(flight) : null;
  post({ kind: 'flown', t_s: flight.t_s, frames, entries: flight.takeTold(), view, session: flight.session.view() });
}

function over(): void {
  if (!flight || !options) return;
  self.clearInterval(timer);
  flight.end();
  const best = bestHandOf(options);
  const { lesson, seed, acts, ended_s } = flight.flown();
  const view = { ...viewOf(flight), marks: marksOf(flight.flown(), best) };
  post({ kind: 'over', view, record: { lesson: lesson.id, seed, acts: [...acts], ended_s }, best });
}

/** points of a curve that a screen can show */
const SHOWN = 600;

function wouldBe(change: Change): void {
  if (!flight?.over || !options) return;
  const { acts, ended_s, begun_s } = flight.flown();
  const what = whatIf(options, acts, ended_s, change);
  const shown = (trace: Trace): Trace => {
    const from = rowAt(trace, begun_s);
    const column = columnOf(trace, what.channel).subarray(from);
    return decimate({ channels: [what.channel], t_s: trace.t_s.subarray(from), columns: [column] }, SHOWN);
  };
  post({ kind: 'would', what: { ...what, was: shown(what.was), would: shown(what.would) } });
}

self.addEventListener('message', ({ data }: MessageEvent<ToDrill>) => {
  switch (data.kind) {
    case 'begin':
      try {
        begin(data);
      } catch (error) {
        post({ kind: 'refused', message: error instanceof Error ? error.message : String(error) });
      }
      return;
    case 'act':
      flight?.act(data.act);
      // what a hand did is seen at once, not with the next beat
      viewed_ms = 0;
      live();
      return;
    case 'freeze':
      frozen = data.on;
      flown_ms = performance.now();
      return;
    case 'end':
      return over();
    case 'what-if':
      return wouldBe(data.change);
  }
});
