import { readFile } from 'node:fs/promises';
import pg from 'pg';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { PERSON } from '../caller.ts';
import { Caller, Rouse, waitUntil } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
beforeAll(async () => {
  rouse = await Rouse.start();
  call = new Caller(rouse.base);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

const ask = (path: string): Promise<Response> => fetch(`${rouse.base}${path}`);

test('whoever runs the server asks without a sign-in whether it lives, and whether it can serve', async () => {
  expect([(await ask('/healthz')).status, await (await ask('/healthz')).text()]).toEqual([200, 'ok\n']);
  expect(await (await ask('/readyz')).json()).toEqual({ ready: true, troubles: [] });
  const names = [await ask('/healthz'), await ask('/api/today')].map((answer) => answer.headers.get('x-request-id'));
  expect(new Set(names).size).toBe(2);
  expect(names.every((name) => /^[0-9a-f-]{36}$/.test(name ?? ''))).toBe(true);
  const admin = new pg.Client({ connectionString: rouse.database.adminUrl });
  await admin.connect();
  const name = new URL(rouse.database.url).pathname.slice(1);
  try {
    await admin.query(`ALTER DATABASE ${name} ALLOW_CONNECTIONS false`);
    await admin.query('SELECT pg_terminate_backend(pid) FROM pg_stat_activity WHERE datname = $1', [name]);
    const refused = await ask('/readyz');
    expect(refused.status).toBe(503);
    expect(await refused.json()).toEqual({ ready: false, troubles: [expect.stringContaining('the database')] });
    expect((await ask('/healthz')).status).toBe(200);
  } finally {
    await admin.query(`ALTER DATABASE ${name} ALLOW_CONNECTIONS true`);
    await admin.end();
  }
  await waitUntil(async () => ((await ask('/readyz')).status === 200 ? true : null));
});

test('its figures are there for Prometheus, and name nobody', async () => {
  await call.choose('mild');
  const run = await call.open();
  const figure = (text: string, name: string): number =>
    Number(new RegExp(`^${name.replace(/[{}"]/g, String.raw`\$&`)} (.+)$`, 'm').exec(text)?.[1]);
  const text = await waitUntil(async () => {
    const answer = await ask('/metrics');
    expect(answer.headers.get('content-type')).toContain('text/plain');
    const told = await answer.text();
    return figure(told, 'rouse_frame_age_seconds{tail="QV-SKY"}') < 1 ? told : null;
  });
  expect(figure(text, 'rouse_runs_open')).toBe(1);
  expect(figure(text, 'rouse_line_bad_share{tail="QV-SKY"}')).toBe(0);
  expect(figure(text, 'rouse_event_loop_delay_seconds{quantile="0.99"}')).toBeGreaterThanOrEqual(0);
  expect(figure(text, 'rouse_database_away_seconds')).toBe(0);
  expect(text).not.toContain(PERSON.pilot.name);
  // a line that says something is timed until the pages have it
  await call.post('/stand-in/pace', { run, times: 8 });
  await call.work(run, 'engine-start');
  await call.post('/stand-in/move', { run, item: 'engine-start' });
  await call.waitFor(run, (e) => e.kind === 'cue');
  expect(figure(await (await ask('/metrics')).text(), 'rouse_cue_seconds_count')).toBeGreaterThan(0);
  await call.settle();
});

test('the sample dashboard draws figures that are there, and leaves none out that is worth a call', async () => {
  const told = await (await ask('/metrics')).text();
  const given = new Set([...told.matchAll(/^# TYPE (rouse_\w+) /gm)].map(([, name]) => name!));
  const dashboard = JSON.parse(await readFile('docs/samples/dashboard.json', 'utf8')) as { panels: { targets: { expr: string }[] }[] }; // oxfmt-ignore
  const drawn = new Set(
    dashboard.panels.flatMap(({ targets }) =>
      targets.flatMap(({ expr }) => (expr.match(/rouse_\w+/g) ?? []).map((n) => n.replace(/_bucket$/, ''))),
    ),
  );
  expect([...drawn].filter((name) => !given.has(name))).toEqual([]);
  const operations = await readFile('docs/operations.md', 'utf8');
  const calls = [...operations.matchAll(/^\| `(rouse_\w+)/gm)].map(([, name]) => name!);
  expect(calls.length).toBeGreaterThan(6);
  expect(calls.filter((name) => !drawn.has(name))).toEqual([]);
});
