import { readFileSync } from 'node:fs';
import { may, RIGHTS, type Role, ROLES, ROUTES } from '@rouse/core/people';
import path from 'node:path';
import pg from 'pg';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { WebSocket } from 'ws';
import { DEMO, FLEET, PEOPLE } from '../../server/src/demo/identity.ts';
import { asOperator, openPool } from '../../server/src/db/pool.ts';
import { Caller, goodBrief, ROOT, Rouse } from '../rouse.ts';
import { type Answered, foundOwn, Guest } from '../guest.ts';

let rouse: Rouse;
let demo: Caller;
let own: string;
/** somebody of the own operator for each role, somebody who has left it, and nobody */
const guests = new Map<Role | 'left' | 'nobody', Guest>();
const theirs: Record<string, string> = {};

beforeAll(async () => {
  rouse = await Rouse.start({ demoStarts: 3 });
  demo = new Caller(rouse.base);
  const founder = await foundOwn(rouse.base);
  own = (await founder.session()).person!.member!.operatorId;
  for (const role of ROLES) guests.set(role, await founder.invite(`Own ${role}`, [role]));
  const left = await founder.invite('Own leaver', ['pilot']);
  const people = await founder.get<{ personId: string; name: string }[]>('/people');
  const leaver = people.find((p) => p.name === 'Own leaver')!.personId;
  expect((await founder.send('DELETE', `/people/${leaver}`)).status).toBe(200);
  await left.signIn('own.leaver');
  guests.set('left', left);
  guests.set('nobody', new Guest(rouse.base));

  // one thing of everything that the demo has
  theirs['run'] = await demo.open();
  theirs['aircraft'] = DEMO.aircraftId;
  const { body } = await demo.post('/types/drafts', { like: 'skerry-s7' });
  theirs['draft'] = (body as { draft?: string }).draft!;
  const administrator = demo.as('administrator');
  const made = async (place: string, wanted: unknown): Promise<string> =>
    ((await administrator.post(place, wanted)).body as unknown as { id: string }).id;
  theirs['device'] = await made('/devices', { aircraft: DEMO.aircraftId, label: 'Unit of the demo' });
  theirs['tablet'] = await made('/tablets', { label: 'Tablet of the demo' });
  const defect = { equipment: 'extinguisher', words: 'Pin is missing' };
  theirs['defect'] = ((await demo.post(`/aircraft/${DEMO.aircraftId}/defects`, defect)).body as unknown as { id: string }).id; // oxfmt-ignore
  await administrator.post('/invitations', { name: 'Somebody of the demo', roles: ['reader'] });
  theirs['invitation'] = (await administrator.get<{ id: string }[]>('/invitations'))[0]!.id;
  theirs['person'] = PEOPLE[2].personId;
  theirs['session'] = (await demo.get<{ id: string }[]>('/account/sessions'))[0]!.id;
});
afterAll(async () => {
  await demo.settle();
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

const REST: Record<string, string> = {
  site: 'Varra',
  pad: 'pad 2, Varra',
  label: 'Pilot with helmet',
  type: 'S7',
  version: '1',
  credential: 'none',
  token: 'none',
  operator: DEMO.operatorId,
  seq: '1', // oxfmt-ignore
};
/** The address of a route with the demo's own things in it. */
const addressOf = (route: string): string =>
  route.replaceAll(/:(\w+)/g, (_, name: string) => encodeURIComponent(theirs[name] ?? REST[name]!));

/** What each route would take if it were one's own: so that it is the fence that refuses, and not the form. */
const BODIES: Record<string, unknown> = {
  'POST /runs': { aircraft: DEMO.aircraftId, brief: goodBrief() },
  'POST /runs/:run/entries': { id: uuidv7(), seq: 3, payload: { kind: 'mark', words: 'from elsewhere' } },
  'PUT /types/drafts/:draft/files': { file: 'wind.yaml', text: '', seen: 99 },
  'PUT /types/:type/tails': { aircraft: DEMO.aircraftId, version: 1 },
  'PUT /aircraft/:aircraft': { pad: 'pad 1, Varra', basic: null },
  'POST /aircraft/:aircraft/defects': { equipment: 'extinguisher', words: 'from elsewhere' },
  'POST /devices': { aircraft: DEMO.aircraftId, label: 'from elsewhere' },
  'PUT /people/:person': { name: 'From elsewhere', roles: ['reader'] },
  'PUT /session/operator': { operator: DEMO.operatorId },
  'POST /exceedances/:run/:seq/release': { found: 'From elsewhere' },
  'POST /stand-in/conditions': { aircraft: DEMO.aircraftId, preset: 'mild' },
  'POST /stand-in/prepare': { aircraft: DEMO.aircraftId, mass_kg: null },
  'POST /stand-in/line': { aircraft: DEMO.aircraftId, line: {} },
};
const runBodies = (): Record<string, unknown> => ({
  'POST /stand-in/move': { run: theirs['run'], item: 'battery-on' },
  'POST /stand-in/begin': { run: theirs['run'], leg: 'lift' },
  'POST /stand-in/pace': { run: theirs['run'], times: 2 },
});

/** Every row of an operator, as one digest a table. */
async function rowsOf(operatorId: string): Promise<Record<string, string>> {
  const client = new pg.Client({ connectionString: rouse.database.url });
  await client.connect();
  const found: Record<string, string> = {};
  for (const table of await tablesOfOperators(client)) {
    const { rows } = await client.query<{ all: string }>(
      `SELECT count(*) || ' ' || coalesce(md5(string_agg(t::text, '|' ORDER BY t::text)), '') AS all FROM ${table} t WHERE operator_id = $1`,
      [operatorId],
    );
    found[table] = rows[0]!.all;
  }
  await client.end();
  return found;
}

async function tablesOfOperators(client: pg.ClientBase): Promise<string[]> {
  const { rows } = await client.query<{ name: string }>(
    `SELECT c.relname AS name FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'operator_id'
     WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p') AND NOT c.relispartition ORDER BY 1`,
  );
  return rows.map((r) => r.name);
}

/** Words of the demo that nobody else may read: its tails, its people, its ids. */
const secrets = (): string[] => [
  ...FLEET.map((a) => a.tail),
  ...PEOPLE.map((p) => p.name),
  ...Object.values(theirs),
  DEMO.operator,
];
/** what everybody may see: who can be chosen in the demo, and that a route was asked for */
const SAID_TO_ALL = ['GET /session', 'DELETE /session', 'GET /session/sign-on/:operator'];

/** The refusal that the table of routes asks for; nothing where somebody is admitted. */
function refusalOf(need: (typeof ROUTES)[number]['need'], who: string): '' | 'signed-out' | 'no-right' {
  if (need === 'public') return '';
  if (who === 'nobody') return 'signed-out';
  if (need === 'signed-in') return '';
  const roles = ROLES.filter((role) => role === who);
  return roles.length > 0 && (need === 'member' || may(roles, need)) ? '' : 'no-right';
}

/** What is wrong with the answer that somebody got: against the table of routes, and in what it tells of the demo. */
function wrongIn(
  name: string,
  { path: route, need }: (typeof ROUTES)[number],
  who: string,
  answer: Answered,
): string[] {
  const code = (answer.body as { error?: { code?: string } } | null)?.error?.code ?? '';
  const wanted = refusalOf(need, who);
  const refused = need !== 'public' && ['signed-out', 'no-right'].includes(code);
  const found: string[] = [];
  if (wanted === '' ? refused : code !== wanted)
    found.push(`${who}: ${answer.status} ${code}, not ${wanted || 'admitted'}`);
  // what would be taken of one's own: of the demo nothing is there
  const names = /:(run|aircraft|draft|device|tablet|defect|invitation|person)\b/.test(route);
  if (wanted === '' && names && BODIES[name] !== undefined && answer.status !== 404)
    found.push(`${who}: ${answer.status}, not 404`);
  const told = JSON.stringify(answer.body ?? answer.text).replaceAll(answer.asked, '').replaceAll(/no (aircraft|run|person) [\w-]+/g, ''); // oxfmt-ignore
  const leaks = SAID_TO_ALL.includes(name) ? [] : secrets().filter((secret) => told.includes(secret));
  return [...found, ...leaks.map((secret) => `${who}: is told ${secret}`)];
}

describe('every route, every role, own and foreign operator', () => {
  test.each(ROUTES.map((r) => [`${r.method} ${r.path}`, r] as const))('%s', async (name, route) => {
    const found: string[] = [];
    for (const [who, known] of guests) {
      // who signs out is still wanted by the next route
      const guest = name === 'DELETE /session' ? known.elsewhere() : known;
      if (guest !== known && who !== 'nobody') await guest.signIn(`own.${who === 'left' ? 'leaver' : who}`);
      const body = { ...BODIES, ...runBodies() }[name] ?? {};
      found.push(...wrongIn(name, route, who, await guest.send(route.method, addressOf(route.path), body)));
    }
    expect(found).toEqual([]);
  });

  test('nothing of the demo was changed by all of it', async () => {
    const before = await rowsOf(DEMO.operatorId);
    for (const { method, path: route } of ROUTES)
      if (method !== 'GET' && !route.startsWith('/session') && !route.startsWith('/account'))
        for (const role of ROLES)
          await guests
            .get(role)!
            .send(method, addressOf(route), { ...BODIES, ...runBodies() }[`${method} ${route}`] ?? {});
    const after = await rowsOf(DEMO.operatorId);
    // the open run of the demo goes on by itself
    for (const table of ['run_entry', 'trace_chunk']) delete before[table];
    expect(after).toMatchObject(before);
    expect(Object.keys(before).length).toBeGreaterThan(20);
  });

  test('what is not in the table is not there, and says so to whoever asks', async () => {
    for (const who of ['administrator', 'nobody'] as const)
      expect(await guests.get(who)!.send('GET', '/everything')).toMatchObject({ status: 404 });
  });

  test('a run is followed by its own operator only', async () => {
    const follow = async (cookie: string | null, origin?: string): Promise<string> => {
      const headers = { ...(cookie !== null && { cookie }), ...(origin !== undefined && { origin }) };
      const socket = new WebSocket(`${rouse.base.replace('http', 'ws')}/live?run=${theirs['run']}`, { headers });
      return new Promise((told) => {
        socket.on('message', () => {
          told('told');
          socket.close();
        });
        socket.on('error', (error) => told(error.message));
      });
    };
    expect(await follow(await demo.cookie())).toBe('told');
    expect(await follow(null)).toMatch(/404/);
    // a page of another site in the browser of a pilot
    expect(await follow(await demo.cookie(), 'http://evil.example')).toMatch(/404/);
    for (const guest of guests.values()) expect(await follow(guest.cookie)).toMatch(/404/);
  });
});

describe('the second fence', () => {
  test('the role of the server sees and writes rows of one operator only, whatever is asked', async () => {
    const pool = openPool(rouse.database.serverUrl);
    const owner = new pg.Client({ connectionString: rouse.database.url });
    await owner.connect();
    // a session is of a browser, a lease of a server: the operator is what they say, not whose they are
    const tables = (await tablesOfOperators(owner)).filter((t) => t !== 'session' && t !== 'fleet_lease');
    for (const table of tables) {
      const count = async (operator: string): Promise<number> =>
        asOperator(pool, operator, async (tx) => {
          const { rows } = await tx.query<{ n: number }>(`SELECT count(*) AS n FROM ${table} WHERE operator_id <> $1`, [
            operator,
          ]);
          return rows[0]!.n;
        });
      // the names of operators are no secret between the server and itself
      expect(await count(own), table).toBe(table === 'operator' ? 1 : 0);
      const { rows: some } = await owner.query<{ row: Record<string, unknown> }>(
        `SELECT to_jsonb(t) AS row FROM ${table} t WHERE operator_id = $1 LIMIT 1`,
        [DEMO.operatorId],
      );
      if (!some[0]) continue;
      const stolen = asOperator(pool, own, (tx) =>
        tx.query(`INSERT INTO ${table} SELECT * FROM jsonb_populate_record(NULL::${table}, $1)`, [some[0]!.row]),
      );
      await expect(stolen, table).rejects.toThrow(/row-level security|permission denied/);
    }
    const said = asOperator(pool, own, (tx) => tx.query("SELECT runs_that_say('%', 1)"));
    expect((await said).rows).toEqual([]);
    await owner.end();
    await pool.end();
  });
});

test('the docs say of every route what it needs, and of every role what it may', () => {
  const docs = readFileSync(path.join(ROOT, 'docs/rights.md'), 'utf8');
  const rows = docs
    .split('\n')
    .filter((line) => line.startsWith('|'))
    .map((line) => line.split('|').slice(1, -1).map((cell) => cell.trim().replaceAll('`', ''))); // oxfmt-ignore
  const routes = rows.filter(([first]) => /^(GET|POST|PUT|DELETE) \//.test(first!));
  expect(routes.map(([route, need]) => `${route}: ${need}`).toSorted()).toEqual(
    ROUTES.map((r) => `${r.method} ${r.path}: ${r.need}`).toSorted(),
  );
  const rights = rows.filter(([first]) => (RIGHTS as readonly string[]).includes(first!));
  expect(rights.map(([right, ...cells]) => [right, ...ROLES.filter((_, i) => cells[i + 1] === 'yes')])).toEqual(
    RIGHTS.map((right) => [right, ...ROLES.filter((role) => may([role], right))]),
  );
});
