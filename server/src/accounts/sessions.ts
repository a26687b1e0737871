import type { IncomingHttpHeaders } from 'node:http';
import { may, type Right, type Role, withoutProof } from '@rouse/core/people';
import type { Request, Response } from 'express';
import type pg from 'pg';
import { v7 as uuidv7 } from 'uuid';
import type { Clock } from '../clock.ts';
import { Refusal } from '../errors.ts';
import type { Cookies } from './cookies.ts';
import { freshToken, tokenDigest } from './tokens.ts';

export type SignInWay = 'password' | 'code' | 'passkey' | 'sign-on' | 'pin' | 'demo';

/** One sign-in on one browser. */
export interface Session {
  sessionId: string;
  accountId: string;
  way: SignInWay;
  tabletId: string | null;
  device: string;
  address: string;
  madeAt: Date;
  seenAt: Date;
  /** the operator that is worked in; null until one of several is chosen, or when its person has left it */
  member: Member | null;
}

/** A person as they act: in one operator, by the roles that they have there and have shown to be theirs. */
export interface Member {
  operatorId: string;
  operator: string;
  demo: boolean;
  personId: string;
  name: string;
  roles: readonly Role[];
  /** roles that wait for a second proof */
  unproven: readonly Role[];
}

const HOUR_MS = 3_600_000;
const IDLE_MS: Readonly<Record<SignInWay, number>> = {
  password: 12 * HOUR_MS,
  code: 12 * HOUR_MS,
  passkey: 12 * HOUR_MS,
  'sign-on': 12 * HOUR_MS,
  demo: 12 * HOUR_MS,
  // a tablet is handed on
  pin: 4 * HOUR_MS,
};
export const LONGEST_SESSION_MS = 30 * 24 * HOUR_MS;
/** a session is looked up again, behind an answer, when it was read before that */
const READ_AGAIN_MS = 5000;
const SEEN_EVERY_MS = 60_000;
const MOST_KEPT = 10_000;
/** a second proof is in the way itself, or there is nothing to prove */
const PROVEN_WAYS: readonly SignInWay[] = ['code', 'passkey', 'sign-on', 'demo'];

interface Kept {
  session: Session;
  readAt_ms: number;
}

interface Row extends Omit<Session, 'member'> {
  operatorId: string | null;
  operator: string | null;
  demo: boolean;
  codesAsked: boolean;
  name: string;
  roles: Role[];
}

const SELECT = `
  SELECT s.session_id AS "sessionId", s.account_id AS "accountId", s.way, s.tablet_id AS "tabletId", s.device, s.address,
         s.made_at AS "madeAt", s.seen_at AS "seenAt", m.operator_id AS "operatorId", m.operator, m.demo,
         m.codes_asked AS "codesAsked", m.name, m.roles
  FROM session s LEFT JOIN LATERAL memberships_of(s.account_id) m ON m.operator_id = s.operator_id`;

export interface SessionsOptions {
  pool: pg.Pool;
  cookies: Cookies;
  clock: Clock;
  /** nobody is signed out who holds a run that goes on */
  holdsRun: (accountId: string) => boolean;
  /** a session is over: what hangs on it ends too */
  onEnded: (sessionId: string) => void;
}

/** Who asks. Kept for seconds, so that a request costs no query; kept on while the database is away, so that a start goes on. */
export class Sessions {
  private readonly options: SessionsOptions;
  private readonly kept = new Map<string, Kept>();

  constructor(options: SessionsOptions) {
    this.options = options;
  }

  /** The session of a request, null for none and for one that is over. */
  async of(headers: IncomingHttpHeaders): Promise<Session | null> {
    const token = this.options.cookies.read(headers, 'session');
    if (token === null) return null;
    const digest = tokenDigest(token);
    const key = digest.toString('hex');
    const known = this.kept.get(key);
    // whoever is known is answered at once, with or without a database: an abort waits for neither
    if (known) {
      const age_ms = this.options.clock.monotonic() - known.readAt_ms;
      if (age_ms > READ_AGAIN_MS) void this.refresh(key, digest).catch(() => undefined);
      return this.stillGood(known.session);
    }
    const session = await this.refresh(key, digest);
    return session && this.stillGood(session);
  }

  /** Signs in: another token each time. */
  async begin(
    req: Request,
    res: Response,
    accountId: string,
    way: SignInWay,
    where: { operatorId?: string | null; tabletId?: string } = {},
  ): Promise<Session> {
    const { pool, cookies, clock } = this.options;
    await this.endOf(req.headers);
    const operatorId = where.operatorId ?? (await this.onlyOperatorOf(accountId));
    const token = freshToken();
    const now = new Date(clock.now());
    await pool.query(
      `INSERT INTO session (token_digest, session_id, account_id, operator_id, tablet_id, way, device, address, made_at, seen_at)
       VALUES ($1, $2, $3, $4, $5, $6, $7, $8, $9, $9)`,
      [
        tokenDigest(token),
        uuidv7(),
        accountId,
        operatorId,
        where.tabletId ?? null,
        way,
        (req.headers['user-agent'] ?? 'unknown').slice(0, 200),
        req.ip ?? 'unknown',
        now,
      ],
    );
    cookies.set(res, 'session', token);
    return (await this.read(tokenDigest(token)))!;
  }

  /** Works in one of the operators of the account from now on. @throws Refusal for one that is not */
  async choose(headers: IncomingHttpHeaders, session: Session, operatorId: string): Promise<void> {
    const { pool } = this.options;
    const { rowCount } = await pool.query('SELECT FROM memberships_of($1) m WHERE m.operator_id = $2', [
      session.accountId,
      operatorId,
    ]);
    if (rowCount !== 1) throw new Refusal('not-found', 'You do not work for this operator.');
    await pool.query('UPDATE session SET operator_id = $2 WHERE session_id = $1', [session.sessionId, operatorId]);
    this.kept.delete(this.keyOf(headers));
  }

  /** Signs the browser of a request out. */
  async endOf(headers: IncomingHttpHeaders): Promise<void> {
    const token = this.options.cookies.read(headers, 'session');
    if (token === null) return;
    await this.drop('token_digest = $1', tokenDigest(token));
  }

  /** Ends one of the sessions of an account. @returns false when there is none of this id */
  async end(accountId: string, sessionId: string): Promise<boolean> {
    return (await this.drop('account_id = $1 AND session_id = $2', accountId, sessionId)) > 0;
  }

  /** Ends all sessions of an account, except one. */
  async endAll(accountId: string, except: string | null = null): Promise<void> {
    await this.drop('account_id = $1 AND session_id IS DISTINCT FROM $2', accountId, except);
  }

  /** Ends the sessions that were begun on a tablet. */
  async endTablet(tabletId: string): Promise<void> {
    await this.drop('tablet_id = $1', tabletId);
  }

  async list(accountId: string): Promise<Session[]> {
    const { rows } = await this.options.pool.query<Row>(`${SELECT} WHERE s.account_id = $1 ORDER BY s.seen_at DESC`, [
      accountId,
    ]);
    return rows.map(sessionOf);
  }

  /** Those of some sessions that are over, whichever server ended them. @throws what the database says */
  async overOf(sessionIds: readonly string[]): Promise<string[]> {
    if (sessionIds.length === 0) return [];
    const { rows } = await this.options.pool.query<{ id: string }>(
      'SELECT id FROM unnest($1::uuid[]) id WHERE NOT EXISTS (SELECT FROM session WHERE session_id = id)',
      [sessionIds],
    );
    return rows.map((r) => r.id);
  }

  /** What somebody may do has changed: it is read again at their next request. */
  forget(accountId: string): void {
    for (const [key, { session }] of this.kept) if (session.accountId === accountId) this.kept.delete(key);
  }

  forgetAll(): void {
    this.kept.clear();
  }

  private async refresh(key: string, digest: Buffer): Promise<Session | null> {
    const known = this.kept.get(key);
    // whoever asks meanwhile is answered by what is known
    if (known) known.readAt_ms = this.options.clock.monotonic();
    const session = await this.read(digest);
    this.keep(key, session);
    if (session) this.seen(digest, session);
    return session;
  }

  private async read(digest: Buffer): Promise<Session | null> {
    const { rows } = await this.options.pool.query<Row>(`${SELECT} WHERE s.token_digest = $1`, [digest]);
    return rows[0] ? sessionOf(rows[0]) : null;
  }

  private stillGood(session: Session): Session | null {
    const { clock, holdsRun } = this.options;
    const now_ms = clock.now();
    const over =
      now_ms - session.seenAt.getTime() > IDLE_MS[session.way] ||
      now_ms - session.madeAt.getTime() > LONGEST_SESSION_MS;
    return over && !holdsRun(session.accountId) ? null : session;
  }

  private keep(key: string, session: Session | null): void {
    this.kept.delete(key);
    if (!session) return;
    this.kept.set(key, { session, readAt_ms: this.options.clock.monotonic() });
    if (this.kept.size > MOST_KEPT) this.kept.delete(this.kept.keys().next().value!);
  }

  private seen(digest: Buffer, session: Session): void {
    const now_ms = this.options.clock.now();
    if (now_ms - session.seenAt.getTime() < SEEN_EVERY_MS || !this.stillGood(session)) return;
    session.seenAt = new Date(now_ms);
    // where it cannot be written it is written a minute later
    this.options.pool
      .query('UPDATE session SET seen_at = $2 WHERE token_digest = $1', [digest, session.seenAt])
      .catch(() => undefined);
  }

  private async drop(where: string, ...values: unknown[]): Promise<number> {
    const { rows } = await this.options.pool.query<{ id: string }>(
      `DELETE FROM session WHERE ${where} RETURNING session_id AS id`,
      values,
    );
    const gone = new Set(rows.map((r) => r.id));
    for (const [key, { session }] of this.kept) if (gone.has(session.sessionId)) this.kept.delete(key);
    for (const id of gone) this.options.onEnded(id);
    return gone.size;
  }

  private async onlyOperatorOf(accountId: string): Promise<string | null> {
    const { rows } = await this.options.pool.query<{ id: string }>(
      'SELECT m.operator_id AS id FROM memberships_of($1) m',
      [accountId],
    );
    return rows.length === 1 ? rows[0]!.id : null;
  }

  private keyOf(headers: IncomingHttpHeaders): string {
    return tokenDigest(this.options.cookies.read(headers, 'session') ?? '').toString('hex');
  }
}

function sessionOf({ operatorId, operator, demo, codesAsked, name, roles, ...session }: Row): Session {
  if (operatorId === null) return { ...session, member: null };
  const proven = !codesAsked || PROVEN_WAYS.includes(session.way);
  const effective = proven ? roles : withoutProof(roles);
  return {
    ...session,
    member: {
      operatorId,
      operator: operator ?? '',
      demo,
      personId: session.accountId,
      name,
      roles: effective,
      unproven: roles.filter((r) => !effective.includes(r)),
    },
  };
}

/** @throws Refusal no-right that says what would help */
export function needRight(member: Member, right: Right): void {
  if (may(member.roles, right)) return;
  if (may(member.unproven, right))
    throw new Refusal('no-right', 'This asks for a sign-in with a passkey or a code.', { proof: true });
  const roles = member.roles.length > 0 ? member.roles.join(', ') : 'none';
  throw new Refusal('no-right', `Your roles here do not include this one: ${roles}.`);
}
