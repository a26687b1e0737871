import { randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { IncomingHttpHeaders } from 'node:http';
import pg from 'pg';
import type { Cookies } from '../server/src/accounts/cookies.ts';
import { Sessions } from '../server/src/accounts/sessions.ts';
import { tokenDigest } from '../server/src/accounts/tokens.ts';
import { MACHINE_CLOCK } from '../server/src/clock.ts';
import { openPool } from '../server/src/db/pool.ts';
import { DEMO } from '../server/src/demo/identity.ts';
import { foundOwn, OWN } from '../tests/guest.ts';
import { type Line, many, share } from './measure.ts';
import { type Programs, startPrograms } from './programs.ts';

const SESSIONS = many(100_000, 500);
const LOOK_UPS = many(2000, 50);
const SIGN_INS = many(20, 3);
const AT_ONCE = 20;

/** What a sign-in costs, one and twenty at once, and what a request pays to know who asks. */
export async function accounts(): Promise<Line[]> {
  const programs = await startPrograms({ standIn: false });
  const owner = new pg.Client({ connectionString: programs.ownerUrl });
  await owner.connect();
  try {
    return [...(await signIns(programs, owner)), await lookUp(programs, owner)];
  } finally {
    await owner.end();
    await programs.stop();
  }
}

async function signIns(programs: Programs, owner: pg.Client): Promise<Line[]> {
  const founder = await foundOwn(programs.base);
  const signIn = async (): Promise<number> => {
    const since = performance.now();
    const { status } = await founder.elsewhere().signIn(OWN.person.login, OWN.person.password);
    if (status !== 201) throw new Error(`a sign-in was answered with ${status}`);
    return performance.now() - since;
  };
  const alone: number[] = [];
  for (let i = 0; i < SIGN_INS; i++) {
    alone.push(await signIn());
    await owner.query('DELETE FROM rate_limit');
  }
  const before = residentMB(programs.serverPid);
  let most = before;
  const watching = setInterval(() => (most = Math.max(most, residentMB(programs.serverPid))), 5);
  // of twenty people at once, each with a name of their own: what is limited is tries, not people
  await Promise.all(Array.from({ length: AT_ONCE }, () => founder.elsewhere().signIn(randomBytes(6).toString('hex'), 'x'.repeat(20)))); // oxfmt-ignore
  clearInterval(watching);
  return [
    {
      name: 'accounts: a sign-in with a password, p95',
      value: share(alone, 0.95),
      unit: 'ms',
      wanted: 'at most',
      target: 300,
      remark: `median ${share(alone, 0.5).toFixed(0)} ms`,
    },
    {
      name: `accounts: memory of the server under ${AT_ONCE} sign-ins at once, more than before`,
      value: most - before,
      unit: 'MB',
      wanted: 'at most',
      target: 80,
      remark: 'two are hashed at a time, 19 MB each',
    },
  ];
}

const residentMB = (pid: number): number =>
  Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]) / 1024;

async function lookUp({ databaseUrl }: Programs, owner: pg.Client): Promise<Line> {
  const tokens = Array.from({ length: LOOK_UPS }, () => randomBytes(32).toString('base64url'));
  const insert = `INSERT INTO session (token_digest, session_id, account_id, operator_id, way, device, address, made_at, seen_at)
    SELECT digest, gen_random_uuid(), $2, $3, 'demo', 'bench', '127.0.0.1', now(), now() FROM unnest($1::bytea[]) AS d (digest)`;
  await owner.query(insert, [tokens.map(tokenDigest), DEMO.personId, DEMO.operatorId]);
  for (let left = SESSIONS - LOOK_UPS; left > 0; left -= 10_000)
    await owner.query(insert, [Array.from({ length: Math.min(left, 10_000) }, () => randomBytes(32)), DEMO.personId, DEMO.operatorId]); // oxfmt-ignore
  await owner.query('ANALYZE session');
  const pool = openPool(databaseUrl);
  const sessions = new Sessions({
    pool,
    cookies: { read: ({ cookie }: IncomingHttpHeaders) => cookie ?? null } as unknown as Cookies,
    clock: MACHINE_CLOCK,
    holdsRun: () => false,
    onEnded: () => undefined,
  });
  const taken: number[] = [];
  for (const token of tokens) {
    const headers: IncomingHttpHeaders = { cookie: token };
    const since = performance.now();
    if (!(await sessions.of(headers))) throw new Error('a session was not found');
    taken.push(performance.now() - since);
  }
  await pool.end();
  return {
    name: `accounts: looking a session up among ${SESSIONS} for the first time, p95`,
    value: share(taken, 0.95),
    unit: 'ms',
    wanted: 'at most',
    target: 2,
    remark: `median ${share(taken, 0.5).toFixed(2)} ms; again within a minute it is read from memory`,
  };
}
