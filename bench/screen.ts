import { FLEET } from '../server/src/demo/identity.ts';
import { Caller, goodBrief } from '../tests/caller.ts';
import { launchChrome, openPage } from '../tests/browser/chrome.ts';
import { many, type Line } from './measure.ts';
import { startPrograms } from './programs.ts';

const SECONDS = many(10, 2);

/** Script time for each frame that the run-up screen paints, while a check is measured and frames come at 50 Hz. */
export async function screen(): Promise<Line> {
  const programs = await startPrograms({ standIn: true });
  const chrome = await launchChrome();
  try {
    const call = new Caller(programs.base);
    const { aircraftId } = FLEET.find((a) => a.tail === 'QV-SKY')!;
    const { body } = await call.post('/runs', { aircraft: aircraftId, brief: goodBrief(aircraftId) });
    const run = body.run!;
    await call.post('/stand-in/pace', { run, times: 8 });
    await call.work(run, 'hydraulics');
    await call.post('/stand-in/pace', { run, times: 1 });
    const { page } = await openPage(chrome.browser, programs.base, { everyFrame: true });
    await page.goto(`${programs.base}/start/${run}`, { waitUntil: 'networkidle2' });
    await page.waitForSelector('canvas[data-lanes][data-painted-unit]');
    const before = await page.metrics();
    const frames = await page.evaluate(
      (ms) =>
        new Promise<number>((done) => {
          let n = 0;
          const end = performance.now() + ms;
          const count = (now: number): void => {
            n++;
            if (now < end) requestAnimationFrame(count);
            else done(n);
          };
          requestAnimationFrame(count);
        }),
      SECONDS * 1000,
    );
    const after = await page.metrics();
    return {
      name: 'screen of a check, script for each painted frame',
      value: (1000 * (after.ScriptDuration! - before.ScriptDuration!)) / frames,
      unit: 'ms',
      wanted: 'at most',
      target: 4,
      remark: `${(frames / SECONDS).toFixed(0)} frames a second, data at 50 Hz`,
    };
  } finally {
    await chrome.close();
    await programs.stop();
  }
}
