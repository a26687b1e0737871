import type { AuditMessage, DeviceMade, LinkMade, SessionRow, Today } from '@rouse/core/contract';
import type { Entry } from '@rouse/core/procedure';
import { Secret, TOTP } from 'otpauth';
import pg from 'pg';
import { unzipSync, zipSync } from 'fflate';
import { verifyBundle } from '@rouse/core/format';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { MACHINE_CLOCK } from '../../server/src/clock.ts';
import { Caller, goodBrief, Rouse, waitUntil } from '../rouse.ts';
import { foundOwn, Guest, OWN, PASSWORD } from '../guest.ts';

let rouse: Rouse;
let founder: Guest;
let wall_ms = 0;
beforeAll(async () => {
  rouse = await Rouse.start({ clock: { ...MACHINE_CLOCK, now: () => Date.now() + wall_ms }, requestsIn10s: 800 });
  founder = await foundOwn(rouse.base);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

const codeOf = ({ body }: { body: unknown }): string | undefined =>
  (body as { error?: { code: string } } | null)?.error?.code;
const errorOf = ({ body }: { body: unknown }): { code: string; message: string; path?: string } =>
  (body as { error: { code: string; message: string; path?: string } }).error;
const tokenOf = ({ body }: { body: unknown }): string => (body as LinkMade).link.split('/join/')[1]!;
const personOf = async (guest: Guest): Promise<string> => (await guest.session()).person!.personId;
async function asOwner<T extends pg.QueryResultRow>(sql: string, values: unknown[] = []): Promise<T[]> {
  const owner = new pg.Client({ connectionString: rouse.database.url });
  await owner.connect();
  const { rows } = await owner.query<T>(sql, values);
  await owner.end();
  return rows;
}

describe('an operator is set up', () => {
  test('by whoever is first; the second is told to be invited', async () => {
    const { person } = await founder.session();
    expect(person!.member).toMatchObject({
      operator: OWN.operator,
      name: 'Ida Founder',
      roles: ['administrator', 'pilot'],
    });
    const { aircraft } = await founder.get<Today>('/today');
    expect(aircraft.map((a) => a.tail)).toEqual(['AL-001']);
    const second = await new Guest(rouse.base).send('POST', '/found', { ...OWN, operator: 'Another one' });
    expect(errorOf(second)).toMatchObject({ code: 'not-so', message: expect.stringContaining('invites') });
  });

  test('and flies its first run by hand, apart from the demo', async () => {
    const { aircraft } = await founder.get<Today>('/today');
    const opened = await founder.send('POST', '/runs', {
      aircraft: aircraft[0]!.aircraft,
      brief: goodBrief(),
      byHand: true,
    });
    expect(opened.status).toBe(201);
    const { run } = opened.body as { run: string };
    const detail = await founder.get<{ source: string; pilot: string }>(`/runs/${run}`);
    expect(detail).toMatchObject({ source: 'by-hand', pilot: 'Ida Founder' });
    expect((await new Caller(rouse.base).fetch(`/runs/${run}`)).status).toBe(404);
  });

  test.each([
    ['operator', { ...OWN, operator: 'A' }],
    ['site.elev_ft', { ...OWN, site: { ...OWN.site, elev_ft: 'high' } }],
    ['person.password', { ...OWN, person: { ...OWN.person, password: 'short' } }],
    ['aircraft.tail', { ...OWN, aircraft: { ...OWN.aircraft, tail: 'no good' } }],
  ])('a wrong %s is named', async (path, wrong) => {
    expect(errorOf(await new Guest(rouse.base).send('POST', '/found', wrong))).toMatchObject({
      code: 'bad-request',
      path,
    });
  });
});

describe('signing in by name', () => {
  test('a wrong password and a name that nobody has are answered alike', async () => {
    const guest = founder.elsewhere();
    const wrong = await guest.signIn('ida', 'not my password');
    const unknown = await guest.signIn('nobody here', 'not my password');
    expect(wrong).toMatchObject({ status: 401, body: unknown.body });
    expect(await guest.signIn('IDA', OWN.person.password)).toMatchObject({ status: 201 });
    const [{ password }] = (await asOwner<{ password: string }>("SELECT password FROM account WHERE login = 'ida'")) as [{ password: string }]; // oxfmt-ignore
    expect(password).toMatch(/^\$argon2id\$v=19\$m=19456,t=2,p=1\$/);
  });

  test('of twenty tries at once five are looked at; nobody is locked out for longer than a while', async () => {
    const joined = await founder.invite('Tried Often', ['pilot']);
    const tries = await Promise.all(
      Array.from({ length: 20 }, () => joined.elsewhere().signIn('tried.often', 'wrong wrong wrong')),
    );
    expect(tries.filter((t) => t.status === 401)).toHaveLength(5);
    const refused = tries.find((t) => t.status === 429)!;
    expect(codeOf(refused)).toBe('too-many-tries');
    expect(Number(refused.headers.get('retry-after'))).toBeLessThanOrEqual(900);
    expect((await joined.session()).person).not.toBeNull();
    await asOwner("DELETE FROM rate_limit WHERE key LIKE 'account:%'");
  });

  test('codes: enrolled with the first right one, asked for after the password, each good once', async () => {
    const guest = await founder.invite('Coded Engineer', ['engineer']);
    const { secret } = (await guest.send('POST', '/account/code', {})).body as { secret: string };
    const totp = new TOTP({ secret: Secret.fromBase32(secret) });
    const begun_ms = Date.now() + wall_ms; // once: a code of half a minute may end while this is asked
    const at = (step: number): string => totp.generate({ timestamp: begun_ms + step * 30_000 });
    expect(errorOf(await guest.send('PUT', '/account/code', { code: '000000' }))).toMatchObject({ path: 'code' });
    expect((await guest.send('PUT', '/account/code', { code: at(0) })).status).toBe(200);

    const other = guest.elsewhere();
    expect((await other.signIn('coded.engineer')).body).toEqual({ need: 'code' });
    expect((await other.session()).person).toBeNull();
    expect((await other.send('POST', '/session/code', { code: at(0) })).status).toBe(401); // used to enrol
    expect(await other.send('POST', '/session/code', { code: at(1) })).toMatchObject({ status: 201 });
    expect((await other.send('POST', '/session/code', { code: at(1) })).status).toBe(401);
    const [{ totp_secret }] = (await asOwner<{ totp_secret: Buffer }>("SELECT totp_secret FROM account WHERE login = 'coded.engineer'")) as [{ totp_secret: Buffer }]; // oxfmt-ignore
    expect(totp_secret.toString('latin1')).not.toContain(secret);
    // whoever came by password alone does not give the second proof up
    expect(codeOf(await guest.send('DELETE', '/account/code'))).toBe('not-so');
    expect((await other.send('DELETE', '/account/code')).status).toBe(200);
  });

  test('where the operator asks for a second proof, an engineer without one reads, and releases nothing', async () => {
    const engineer = await founder.invite('Plain Engineer', ['engineer', 'pilot']);
    const operator = { name: OWN.operator, place: '', codesAsked: true };
    expect((await founder.send('PUT', '/operator', operator)).status).toBe(200);
    expect((await engineer.session()).person!.member).toMatchObject({ roles: ['pilot'], unproven: ['engineer'] });
    const release = await engineer.send('POST', `/defects/${await personOf(engineer)}/close`, {});
    expect(errorOf(release)).toMatchObject({ code: 'no-right', message: expect.stringContaining('passkey') });
    // and the administrator who asked for it is asked too
    expect(codeOf(await founder.send('GET', '/people'))).toBe('no-right');
    await asOwner('UPDATE operator SET codes_asked = false WHERE NOT demo');
    await waitUntil(async () => ((await founder.send('GET', '/people')).status === 200 ? true : null));
  });
});

describe('sessions', () => {
  test('are listed, ended one by one, and all others with another password', async () => {
    const first = await founder.invite('Many Sessions', ['pilot']);
    const [second, third] = [first.elsewhere(), first.elsewhere()];
    for (const guest of [second, third]) await guest.signIn('many.sessions');
    const rows = await first.get<SessionRow[]>('/account/sessions');
    expect(rows).toHaveLength(3);
    expect(rows.filter((r) => r.here)).toHaveLength(1);
    const ofSecond = (await second.get<SessionRow[]>('/account/sessions')).find((r) => r.here)!.id;
    expect((await first.send('DELETE', `/account/sessions/${ofSecond}`)).status).toBe(200);
    expect(codeOf(await second.send('GET', '/today'))).toBe('signed-out');
    expect((await third.send('GET', '/today')).status).toBe(200);
    // nobody ends the session of somebody else
    const ofFounder = (await founder.get<SessionRow[]>('/account/sessions'))[0]!.id;
    expect((await first.send('DELETE', `/account/sessions/${ofFounder}`)).status).toBe(404);
    const wrong = await first.send('PUT', '/account/password', { login: 'many.sessions', password: 'not it', next: 'another long phrase' }); // oxfmt-ignore
    expect(errorOf(wrong)).toMatchObject({ code: 'bad-request', path: 'password' });
    expect((await first.send('PUT', '/account/password', { login: 'many.sessions', password: PASSWORD, next: 'another long phrase' })).status).toBe(200); // oxfmt-ignore
    expect((await first.send('GET', '/today')).status).toBe(200);
    expect(codeOf(await third.send('GET', '/today'))).toBe('signed-out');
  });

  test('the cookie is out of reach of pages, and another one after each sign-in', async () => {
    const guest = founder.elsewhere();
    const { headers } = await guest.signIn('ida', OWN.person.password);
    const [set] = headers.getSetCookie();
    expect(set).toMatch(/^rouse-\d+-session=[\w-]{43};.*HttpOnly; SameSite=Strict$/);
    const before = guest.cookie;
    await guest.signIn('ida', OWN.person.password);
    expect(guest.cookie).not.toBe(before);
    const old = new Guest(rouse.base);
    const response = await fetch(`${rouse.base}/api/today`, { headers: { cookie: before } });
    expect(response.status).toBe(401);
    expect(old.cookie).toBe('');
  });

  test('an idle session is over after half a day, and never while its person has a run that goes on', async () => {
    const idle = await founder.invite('Idle Pilot', ['pilot']);
    const flies = await founder.invite('Flying Pilot', ['pilot']);
    const [{ aircraft }] = (await founder.get<Today>('/today')).aircraft as [Today['aircraft'][number]];
    const { openRun } = (await founder.get<Today>('/today')).aircraft[0]!;
    expect((await flies.send('POST', `/runs/${openRun}/take-over`, {})).status).toBe(201);
    const { entries } = await flies.get<{ entries: Entry[] }>(`/runs/${openRun}`);
    expect(entries.at(-1)).toMatchObject({ kind: 'handed-over', from: 'Ida Founder', to: 'Flying Pilot' });
    expect(codeOf(await flies.send('POST', `/runs/${openRun}/take-over`, {}))).toBe('not-so');
    // an entry that says so is not how a run changes hands
    const forged = { kind: 'handed-over', from: 'Flying Pilot', to: 'Idle Pilot', person: await personOf(idle) };
    const { id } = { id: crypto.randomUUID() };
    expect((await idle.send('POST', `/runs/${openRun}/entries`, { id, seq: entries.length + 1, payload: forged })).status).toBe(422); // oxfmt-ignore
    wall_ms += 13 * 3_600_000;
    expect(codeOf(await idle.send('GET', '/today'))).toBe('signed-out');
    expect((await flies.send('GET', '/today')).status).toBe(200);
    // somebody who has a run does not leave before it is handed over
    await founder.signIn('ida', OWN.person.password);
    const leave = await founder.send('DELETE', `/people/${await personOf(flies)}`);
    expect(errorOf(leave)).toMatchObject({ code: 'not-so', message: expect.stringContaining('AL-001') });
    const now = (await flies.get<{ entries: Entry[] }>(`/runs/${openRun}`)).entries.length;
    const closed = { id: crypto.randomUUID(), seq: now + 1, payload: { kind: 'closed', outcome: 'given-up' } };
    expect((await flies.send('POST', `/runs/${openRun}/entries`, closed)).status).toBe(201);
    expect(codeOf(await flies.send('GET', '/today'))).toBe('signed-out');
    expect(aircraft).toBeDefined();
  });
});

test('a session that asks without end is told to wait; others go on', async () => {
  const wild = await founder.invite('Runs Wild', ['pilot']);
  const statuses = new Set<number>();
  for (let i = 0; i < 80 && !statuses.has(429); i++)
    for (const { status } of await Promise.all(Array.from({ length: 50 }, () => wild.send('GET', '/account')))) statuses.add(status); // oxfmt-ignore
  expect([...statuses].toSorted((a, b) => a - b)).toEqual([200, 429]);
  expect((await founder.send('GET', '/today')).status).toBe(200);
  // but what stops a start is never counted: refused here for its run, and not for how often
  const entry = { id: crypto.randomUUID(), seq: 1, payload: { kind: 'mark', words: '' } };
  const stop = await wild.send('POST', `/runs/${crypto.randomUUID()}/entries`, entry);
  expect(codeOf(stop)).toBe('not-found');
});

describe('links', () => {
  test('work once, tell nobody else anything, and can be taken back', async () => {
    const made = await founder.send('POST', '/invitations', { name: 'Once Only', roles: ['reader'] });
    const token = tokenOf(made);
    const guest = founder.elsewhere();
    expect(await guest.get('/invitations/' + token)).toMatchObject({
      operator: OWN.operator,
      name: 'Once Only',
      roles: ['reader'],
    });
    const short = await guest.send('POST', `/invitations/${token}`, {
      with: 'password',
      login: 'once',
      password: 'short',
    });
    expect(errorOf(short)).toMatchObject({ code: 'bad-request', path: 'password' });
    const taken = await guest.send('POST', `/invitations/${token}`, {
      with: 'password',
      login: 'Ida',
      password: PASSWORD,
    });
    expect(errorOf(taken)).toMatchObject({ code: 'bad-request', path: 'login' });
    // what was wrong has not used it up
    const both = await Promise.all([1, 2].map((n) => founder.elsewhere().send('POST', `/invitations/${token}`, { with: 'password', login: `once.${n}`, password: PASSWORD }))); // oxfmt-ignore
    expect(both.map((a) => a.status).toSorted((a, b) => a - b)).toEqual([201, 404]);

    const other = await founder.send('POST', '/invitations', { name: 'Taken Back', roles: ['pilot'] });
    const { id } = (await founder.get<{ id: string; name: string }[]>('/invitations')).find(
      (i) => i.name === 'Taken Back',
    )!;
    expect((await founder.send('DELETE', `/invitations/${id}`)).status).toBe(200);
    expect((await guest.send('GET', `/invitations/${tokenOf(other)}`)).status).toBe(404);
    for (const odd of ['x', `${id}.short`, `${id}.${'a'.repeat(43)}`])
      expect((await guest.send('GET', `/invitations/${odd}`)).status).toBe(404);
  });

  test('of another password: the old one and every session are over, codes too', async () => {
    const lost = await founder.invite('Lost Password', ['pilot']);
    const made = await founder.send('POST', `/people/${await personOf(lost)}/reset`, {});
    const guest = founder.elsewhere();
    const chosen = { with: 'password', login: 'lost.password', password: 'found a better one' };
    expect((await guest.send('POST', `/invitations/${tokenOf(made)}`, chosen)).status).toBe(201);
    expect(codeOf(await lost.send('GET', '/today'))).toBe('signed-out');
    expect((await lost.signIn('lost.password')).status).toBe(401);
    expect((await lost.signIn('lost.password', 'found a better one')).status).toBe(201);
  });

  test('somebody who works for two operators has one account, chooses, and is reset by neither', async () => {
    const both = await founder.invite('Works Twice', ['pilot']);
    const administrator = new Caller(rouse.base, 'administrator');
    const { body } = await administrator.post('/invitations', { name: 'W. Twice', roles: ['reader'] });
    const token = (body as unknown as LinkMade).link.split('/join/')[1]!;
    expect((await both.send('POST', `/invitations/${token}`, { with: 'my-account' })).status).toBe(201);
    const { person } = await both.session();
    expect(person!.operators.map((o) => o.name)).toEqual([OWN.operator, 'Varra Air Rescue and Training'].toSorted());
    expect(person!.member).toMatchObject({ name: 'W. Twice', roles: ['reader'], demo: true });
    const own = person!.operators.find((o) => o.name === OWN.operator)!.operatorId;
    await both.send('PUT', '/session/operator', { operator: own });
    expect((await both.session()).person!.member).toMatchObject({ name: 'Works Twice', roles: ['pilot'] });
    expect(codeOf(await founder.send('POST', `/people/${person!.personId}/reset`, {}))).toBe('no-right');
    // with a fresh sign-in nothing is chosen
    const fresh = both.elsewhere();
    await fresh.signIn('works.twice');
    expect((await fresh.session()).person!.member).toBeNull();
    expect(codeOf(await fresh.send('GET', '/today'))).toBe('no-right');
  });
});

test('an operator keeps an administrator, and who has left comes in no more', async () => {
  const founderId = await personOf(founder);
  const demoted = await founder.send('PUT', `/people/${founderId}`, { name: 'Ida Founder', roles: ['pilot'] });
  expect(errorOf(demoted)).toMatchObject({ code: 'not-so', message: expect.stringContaining('at least one') });
  expect(codeOf(await founder.send('DELETE', `/people/${founderId}`))).toBe('not-so');
  const leaver = await founder.invite('Soon Gone', ['pilot', 'reader']);
  // a role that is taken away is gone at the next request
  await founder.send('PUT', `/people/${await personOf(leaver)}`, { name: 'Soon Gone', roles: ['reader'] });
  expect(codeOf(await leaver.send('GET', '/practice'))).toBe('no-right');
  await founder.send('DELETE', `/people/${await personOf(leaver)}`);
  expect(codeOf(await leaver.send('GET', '/today'))).toBe('signed-out');
  await leaver.signIn('soon.gone');
  expect((await leaver.session()).person!.member).toBeNull();
});

test('a tablet is taken with a PIN, handed on, and worth nothing once it is ended', async () => {
  const [one, two] = [await founder.invite('Tablet One', ['pilot']), await founder.invite('Tablet Two', ['pilot'])];
  for (const [guest, pin] of [
    [one, '314159'],
    [two, '271828'],
  ] as const) {
    expect(errorOf(await guest.send('PUT', '/account/pin', { pin: '123' }))).toMatchObject({ path: 'pin' });
    expect((await guest.send('PUT', '/account/pin', { pin })).status).toBe(200);
  }
  const tablet = founder.elsewhere();
  await tablet.signIn('ida', OWN.person.password);
  const { id } = (await tablet.send('POST', '/tablets', { label: 'Crew room, left' })).body as { id: string };
  await tablet.send('DELETE', '/session');
  const { tablet: shown } = await tablet.session();
  expect(shown).toMatchObject({ label: 'Crew room, left' });
  expect(shown!.people.map((p) => p.name)).toEqual(['Tablet One', 'Tablet Two']);
  const person = await personOf(one);
  expect((await tablet.send('POST', '/session/pin', { person, pin: '271828' })).status).toBe(401);
  expect((await tablet.send('POST', '/session/pin', { person, pin: '314159' })).status).toBe(201);
  expect((await tablet.session()).person!.member!.name).toBe('Tablet One');
  const other = await personOf(two);
  expect((await tablet.send('POST', '/session/pin', { person: other, pin: '271828' })).status).toBe(201);
  expect((await tablet.session()).person!.member!.name).toBe('Tablet Two');
  // elsewhere a PIN opens nothing
  expect((await one.elsewhere().send('POST', '/session/pin', { person, pin: '314159' })).status).toBe(401);
  expect((await founder.send('DELETE', `/tablets/${id}`)).status).toBe(200);
  expect(codeOf(await tablet.send('GET', '/today'))).toBe('signed-out');
  expect((await tablet.session()).tablet).toBeNull();
});

test('what was done is chained, and an entry that is changed by hand breaks it', async () => {
  const before = await founder.get<AuditMessage>('/audit');
  expect(before.broken).toBeNull();
  expect(before.entries.map((e) => e.act)).toEqual(expect.arrayContaining(['founded', 'invited', 'joined', 'person-left', 'tablet-enrolled'])); // oxfmt-ignore
  expect(before.entries.at(-1)).toMatchObject({ seq: 1, by: 'Ida Founder', act: 'founded' });
  const own = (await founder.session()).person!.member!.operatorId;
  const [{ words }] = (await asOwner<{ words: string }>('SELECT words FROM audit WHERE seq = 3 AND operator_id = $1', [own])) as [{ words: string }]; // oxfmt-ignore
  const say = (other: string): Promise<unknown> =>
    asOwner('UPDATE audit SET words = $2 WHERE seq = 3 AND operator_id = $1', [own, other]);
  await say('nothing happened');
  expect((await founder.get<AuditMessage>('/audit')).broken).toBe(3);
  await say(words);
});

describe('leaving', () => {
  let bytes: Uint8Array;
  const text = (file: Uint8Array): string => Buffer.from(file).toString('utf8');

  test('everything can be taken along, in files that anybody can read', async () => {
    const { status, headers } = await founder.send('GET', '/operator/export');
    expect(status).toBe(200);
    expect(headers.get('content-type')).toBe('application/zip');
    const whole = await fetch(`${rouse.base}/api/operator/export`, { headers: { cookie: founder.cookie } });
    bytes = new Uint8Array(await whole.arrayBuffer());
    const files = unzipSync(bytes);
    expect(Object.keys(files)).toEqual(expect.arrayContaining(['operator.json', 'audit.json', ...['person', 'site', 'aircraft', 'aircraft_type', 'run', 'run_booking'].map((t) => `tables/${t}.json`)])); // oxfmt-ignore
    const runs = Object.entries(files).filter(([name]) => name.startsWith('runs/'));
    expect(runs).toHaveLength(1);
    expect(verifyBundle(text(runs[0]![1]))).toMatchObject({ ok: true, outcome: 'given-up' });
    const all = Object.values(files).map(text).join('\n');
    for (const secret of ['argon2', 'QV-SKY', 'M. Aske', 'token_digest', 'datagram_key'])
      expect(all).not.toContain(secret);
  });

  test('it comes into an empty Rouse elsewhere, verified; what was changed on the way does not', async () => {
    const second = await Rouse.start({ tails: [] });
    const there = await foundOwn(second.base);
    const bring = (zip: Uint8Array): Promise<Response> =>
      fetch(`${second.base}/api/operator/import`, {
        method: 'POST',
        headers: { cookie: there.cookie, 'content-type': 'application/zip' },
        body: zip as Uint8Array<ArrayBuffer>,
      });
    const refusal = async (zip: Uint8Array): Promise<string> =>
      errorOf({ body: await (await bring(zip)).json() }).message;
    expect(await refusal(Buffer.from('no zip at all'))).toContain('cannot be unpacked');
    const files = unzipSync(bytes);
    const run = Object.keys(files).find((name) => name.startsWith('runs/'))!;
    const changed = { ...files, [run]: Buffer.from(text(files[run]!).replace('given-up', 'ready')) };
    expect(await refusal(zipSync(changed))).toMatch(/^runs\/.*Nothing was taken/);
    const { [run]: _gone, ...torn } = files;
    expect(await refusal(zipSync(torn))).toMatch(/^runs\/.*is missing/);
    const forged = text(files['audit.json']!).replace('Ida Founder', 'Nobody Else');
    expect(await refusal(zipSync({ ...files, 'audit.json': Buffer.from(forged) }))).toMatch(
      /^audit.json: its chain is broken/,
    );
    expect(await there.get('/log/runs')).toEqual({ runs: [], more: false });

    const taken = await bring(bytes);
    expect(taken.status, await taken.clone().text()).toBe(201);
    const { runs } = await there.get<{ runs: { run: string; pilot: string }[] }>('/log/runs');
    expect(runs).toMatchObject([{ pilot: 'Ida Founder', outcome: 'given-up' }]);
    const bundle = await there.send('GET', `/runs/${runs[0]!.run}/bundle.json`);
    expect(verifyBundle(bundle.text)).toMatchObject({ ok: true });
    expect(bundle.text).toBe(text(files[run]!));
    expect((await there.get<{ chain: { intact: boolean } }>(`/runs/${runs[0]!.run}/debrief`)).chain.intact).toBe(true);
    const people = await there.get<{ personId: string; name: string; leftAt: string | null }[]>('/people');
    expect(people.map((p) => p.name)).toEqual(expect.arrayContaining(['Works Twice', 'Lost Password']));
    // who came along signs in by a link of their new administrator
    const lost = people.find((p) => p.name === 'Lost Password')!.personId;
    const link = tokenOf(await there.send('POST', `/people/${lost}/reset`, {}));
    const joined = await there
      .elsewhere()
      .send('POST', `/invitations/${link}`, { with: 'password', login: 'lost', password: PASSWORD });
    expect(joined.status).toBe(201);
    const audit = await there.get<AuditMessage>('/audit');
    expect(audit.broken).toBeNull();
    expect(audit.entries.map((e) => e.act)).toContain('imported');
    expect(errorOf({ body: await (await bring(bytes)).json() }).code).toBe('not-so');
    // and the aircraft that came flies on
    const { aircraft } = await there.get<Today>('/today');
    const opened = await there.send('POST', '/runs', {
      aircraft: aircraft[0]!.aircraft,
      brief: goodBrief(),
      byHand: true,
    });
    expect(opened.status).toBe(201);
    await second.stop();
    expect(second.errors).toEqual([]);
  });

  test('and then nothing is left', async () => {
    const { aircraft } = await founder.get<Today>('/today');
    const device = (await founder.send('POST', '/devices', { aircraft: aircraft[0]!.aircraft, label: 'Last line' }))
      .body as DeviceMade;
    expect(device.token).toMatch(/^[\w-]{43}$/);
    expect(errorOf(await founder.send('DELETE', '/operator', { name: 'Alder' }))).toMatchObject({ path: 'name' });
    const own = (await founder.session()).person!.member!.operatorId;
    expect((await founder.send('DELETE', '/operator', { name: OWN.operator })).status).toBe(200);
    expect((await founder.session()).person).toBeNull();
    const tables = await asOwner<{ name: string }>(
      `SELECT c.relname AS name FROM pg_class c JOIN pg_attribute a ON a.attrelid = c.oid AND a.attname = 'operator_id'
       WHERE c.relnamespace = 'public'::regnamespace AND c.relkind IN ('r', 'p') AND NOT c.relispartition`,
    );
    for (const { name } of tables)
      expect(await asOwner(`SELECT 1 FROM ${name} WHERE operator_id = $1`, [own]), name).toEqual([]);
    expect(await asOwner("SELECT login FROM account WHERE login IN ('ida', 'once.1')")).toEqual([]);
    // who works elsewhere too is still known there
    expect(await asOwner("SELECT login FROM account WHERE login = 'works.twice'")).toHaveLength(1);
    const demo = await new Caller(rouse.base).get<Today>('/today');
    expect(demo.aircraft).toHaveLength(6);
  });
});
