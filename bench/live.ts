import net from 'node:net';
import { launchChrome, openPage } from '../tests/browser/chrome.ts';
import { beginByKeyboard, workByKeyboard } from '../tests/browser/pilot.ts';
import { type Line, many, share } from './measure.ts';
import { type Programs, startPrograms } from './programs.ts';

const SECONDS = many(20, 3);

/** Device line to painted pixel, three processes and a browser on this machine, through a whole engine start. */
export async function live(): Promise<Line> {
  const programs = await startPrograms({ standIn: true });
  const chrome = await launchChrome();
  try {
    const { page } = await openPage(chrome.browser, programs.base, { everyFrame: true });
    await beginByKeyboard(page, programs.base);
    await workByKeyboard(page, 'engine-start');
    await page.evaluate(() => {
      const painted: [number, number][] = [];
      Object.assign(window, { painted });
      const canvas = document.querySelector('canvas[data-strip]') as HTMLCanvasElement;
      let last = '';
      new MutationObserver(() => {
        const unit = canvas.dataset['paintedUnit']!;
        if (unit === last) return;
        last = unit;
        // the frame is on the screen when the browser has come back from painting it
        requestAnimationFrame(() => {
          const channel = new MessageChannel();
          channel.port1.onmessage = () => painted.push([Number(unit), performance.timeOrigin + performance.now()]);
          channel.port2.postMessage(0);
        });
      }).observe(canvas, { attributes: true });
    });
    await page.waitForFunction(
      (wanted: number) => (window as unknown as { painted: unknown[] }).painted.length > wanted,
      { timeout: 60_000 },
      SECONDS * 45,
    );
    const painted = await page.evaluate(() => (window as unknown as { painted: [number, number][] }).painted);
    const { epoch_ms } = await askStandIn(programs);
    const latencies = painted.map(([unit_s, at_ms]) => at_ms - (epoch_ms + unit_s * 1000));
    return {
      name: 'live: device line to painted pixel, p99 at 50 Hz',
      value: share(latencies, 0.99),
      unit: 'ms',
      wanted: 'at most',
      target: 100,
      remark: `p50 ${share(latencies, 0.5).toFixed(0)} ms, worst ${share(latencies, 1).toFixed(0)} ms, ${latencies.length} frames painted during a start`,
    };
  } finally {
    await chrome.close();
    await programs.stop();
  }
}

function askStandIn({ controlPort, controlToken }: Programs): Promise<{ epoch_ms: number }> {
  return new Promise((resolve, reject) => {
    const socket = net.connect(controlPort, '127.0.0.1', () =>
      socket.write(`${JSON.stringify({ cmd: 'state', token: controlToken })}\n`),
    );
    socket.on('error', reject);
    socket.once('data', (data) => {
      resolve(JSON.parse(data.toString()) as { epoch_ms: number });
      socket.end();
    });
  });
}
