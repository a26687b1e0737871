import net from 'node:net';
import { once } from 'node:events';
import { writeDeviceLine } from '@rouse/core/format';
import { Caller } from '../tests/caller.ts';
import { launchChrome, openPage } from '../tests/browser/chrome.ts';
import { type Line, many, share, skerry } from './measure.ts';
import { startPrograms } from './programs.ts';

const CUES = many(120, 12);
const FRAME_MS = 20;
/** a crossing every so many frames: cues far enough apart to be told from each other */
const EVERY_FRAMES = 20;

/** The frame that crosses a limit, from the unit's socket to the sound call and to the painted cue. */
export async function cue(): Promise<Line[]> {
  const programs = await startPrograms({ standIn: false });
  const chrome = await launchChrome();
  const unit = net.connect({ port: programs.devicePort, host: '127.0.0.1', noDelay: true });
  await once(unit, 'connect');
  const { feed, crossings, stop } = feedIdle(unit);
  try {
    const call = new Caller(programs.base);
    const run = await call.open();
    const { page } = await openPage(chrome.browser, programs.base, { everyFrame: true });
    await page.evaluateOnNewDocument(() => {
      const heard: number[] = [];
      Object.assign(window, { heard });
      const start = Reflect.get(OscillatorNode.prototype, 'start') as (this: OscillatorNode, when?: number) => void;
      OscillatorNode.prototype.start = function (this: OscillatorNode, when?: number) {
        heard.push(performance.timeOrigin + performance.now());
        return start.call(this, when);
      };
    });
    await page.goto(`${programs.base}/start/${run}`, { waitUntil: 'networkidle2' });
    await page.waitForSelector('[data-item]');
    await page.mouse.click(640, 400); // sound needs a touch first
    await page.evaluate(() => {
      const painted: number[] = [];
      Object.assign(window, { painted });
      const said = (): string => document.querySelector('footer')?.textContent ?? '';
      let last = said();
      new MutationObserver(() => {
        const now = said();
        if (now === last) return;
        last = now;
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => painted.push(performance.timeOrigin + performance.now());
          channel.port2.postMessage(0);
        });
      }).observe(document.body, { characterData: true, childList: true, subtree: true });
    });
    feed();
    await page.waitForFunction(
      (n) => (window as unknown as { painted: number[] }).painted.length >= n,
      { timeout: 180_000 },
      CUES,
    );
    stop();
    const { heard, painted } = await page.evaluate(() => {
      const kept = window as unknown as { heard: number[]; painted: number[] };
      return { heard: kept.heard, painted: kept.painted };
    });
    return [line('sound call', 50, crossings, heard), line('painted cue', 60, crossings, painted)];
  } finally {
    stop();
    unit.destroy();
    await chrome.close();
    await programs.stop();
  }
}

/** The first answer after each crossing, and how late it came. */
function line(what: string, target: number, crossings: readonly number[], answers: readonly number[]): Line {
  const late = crossings.flatMap((at, i) => {
    const answer = answers.find((a) => a >= at && a < (crossings[i + 1] ?? Infinity));
    return answer === undefined ? [] : [answer - at];
  });
  return {
    name: `cue: crossing frame to ${what}, p99`,
    value: share(late, 0.99),
    unit: 'ms',
    wanted: 'at most',
    target,
    remark: `p50 ${share(late, 0.5).toFixed(0)} ms, worst ${share(late, 1).toFixed(0)} ms, ${late.length} cues`,
  };
}

/** An engine at idle, its oil pressure falling below the limit and coming back again and again. */
function feedIdle(unit: net.Socket): { feed: () => void; crossings: number[]; stop: () => void } {
  const values = new Float64Array(skerry.channels.length);
  const set = (id: string, v: number): void => {
    values[skerry.channels.findIndex((c) => c.id === id)] = v;
  };
  const idle: Record<string, number> = { 'ng.1': 67, 'tot.1': 480, nr: 68, 'np.1': 68, 'tq.1': 20, 'fuel.1.flow': 60, 'oil.1.pressure': 3.1, 'oil.1.temperature': 70, 'bus.volts': 28, 'gearbox.oil.pressure': 3.5, 'gearbox.oil.temperature': 60, 'hydraulic.1.pressure': 95, 'hydraulic.2.pressure': 95, 'outside.air': 12, 'engine.1.selector': 1, 'switch.battery': 1, 'switch.generator.1': 1, 'generator.1.amps': 40 }; // oxfmt-ignore
  for (const [id, v] of Object.entries(idle)) set(id, v);
  const crossings: number[] = [];
  let frame = 0;
  let crossing = false;
  const epoch = Date.now();
  const timer = setInterval(() => {
    frame++;
    const low = crossing && Math.floor(frame / EVERY_FRAMES) % 2 === 1;
    const falls = low && frame % EVERY_FRAMES === 0;
    set('oil.1.pressure', low ? 2.0 : 3.1);
    unit.write(writeDeviceLine((Date.now() - epoch) / 1000, values, skerry.channels));
    if (falls) crossings.push(performance.timeOrigin + performance.now());
  }, FRAME_MS);
  return {
    feed: () => (crossing = true),
    crossings,
    stop: () => clearInterval(timer),
  };
}
