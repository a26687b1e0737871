import { type ChildProcess, spawn } from 'node:child_process';
import { once } from 'node:events';
import net from 'node:net';
import path from 'node:path';
import pg from 'pg';
import { launchChrome, openPage } from '../tests/browser/chrome.ts';
import { untilReady } from '../tests/ready.ts';
import { beginByKeyboard, workByKeyboard } from '../tests/browser/pilot.ts';
import { startPostgres } from '../scripts/lib/pg.mjs';
import { type Line, ROOT } from './measure.ts';

const SECONDS = 20;

/** Device line to painted pixel, three processes and a browser on this machine, through a whole engine start. */
export async function live(): Promise<Line> {
  const postgres = (await startPostgres({ name: '-test' })) as { url(db: string): string; stop(): void };
  const name = `bench_${process.pid}`;
  const [port, devicePort, controlPort] = await freePorts(3);
  const env = {
    ...process.env,
    APP_ROOT: ROOT,
    ADMIN_URL: postgres.url('postgres'),
    DATABASE_URL: postgres.url(name),
    PORT: String(port),
    LOG_LEVEL: 'warn',
    ROUSE_DEVICES: `QV-SKY=${devicePort}`,
    ROUSE_CONTROL_PORT: String(controlPort),
    ROUSE_DEMO_STARTS: '10',
  };
  const start = async (program: string, args: string[]): Promise<ChildProcess> => {
    const child = spawn(process.execPath, [path.join(ROOT, program), ...args], {
      stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
      env,
    });
    await untilReady(child);
    return child;
  };
  const server = await start('server/dist/main.js', []);
  const standIn = await start('standin/dist/main.js', [
    '--unit',
    `${path.join(ROOT, 'aircraft/skerry-s7.json')}=127.0.0.1:${devicePort}`,
    '--control',
    String(controlPort),
  ]);
  const chrome = await launchChrome();
  try {
    const { page } = await openPage(chrome.browser);
    await beginByKeyboard(page, `http://127.0.0.1:${port}`);
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
    const { epoch_ms } = await askStandIn(controlPort!);
    const latencies = painted.map(([unit_s, at_ms]) => at_ms - (epoch_ms + unit_s * 1000)).sort((a, b) => a - b);
    const at = (share: number): number =>
      latencies[Math.min(latencies.length - 1, Math.floor(share * latencies.length))]!;
    return {
      name: 'live: device line to painted pixel, p99 at 50 Hz',
      value: at(0.99),
      unit: 'ms',
      wanted: 'at most',
      target: 100,
      remark: `p50 ${at(0.5).toFixed(0)} ms, worst ${at(1).toFixed(0)} ms, ${latencies.length} frames painted during a start`,
    };
  } finally {
    await chrome.close();
    standIn.kill('SIGTERM');
    server.kill('SIGTERM');
    await once(server, 'exit');
    const client = new pg.Client({ connectionString: postgres.url('postgres') });
    await client.connect();
    await client.query(`DROP DATABASE IF EXISTS ${name} WITH (FORCE)`);
    await client.end();
    postgres.stop();
  }
}

async function freePorts(count: number): Promise<number[]> {
  const servers = await Promise.all(
    Array.from(
      { length: count },
      () =>
        new Promise<net.Server>((resolve) => {
          const s = net.createServer().listen(0, '127.0.0.1', () => resolve(s));
        }),
    ),
  );
  const ports = servers.map((s) => (s.address() as net.AddressInfo).port);
  await Promise.all(servers.map((s) => new Promise((resolve) => s.close(resolve))));
  return ports;
}

function askStandIn(port: number): Promise<{ epoch_ms: number }> {
  return new Promise((resolve, reject) => {
    const socket = net.connect(port, '127.0.0.1', () => socket.write('{"cmd":"state"}\n'));
    socket.on('error', reject);
    socket.once('data', (data) => {
      resolve(JSON.parse(data.toString()) as { epoch_ms: number });
      socket.end();
    });
  });
}
