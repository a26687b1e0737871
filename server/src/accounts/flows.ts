import type { Request, Response } from 'express';
import type pg from 'pg';
import type { Clock } from '../clock.ts';
import type { Cookies } from './cookies.ts';
import { freshToken, tokenDigest } from './tokens.ts';

const LASTS_MS = 10 * 60_000;

/** What a browser was sent away with and has to bring back, once. */
export type Flow =
  | { kind: 'passkey'; challenge: string }
  | { kind: 'new-passkey'; challenge: string }
  | { kind: 'new-code'; sealed: string }
  | { kind: 'code'; accountId: string }
  | { kind: 'sign-on'; operatorId: string; verifier: string; state: string; nonce: string; invitation: string | null };

export class Flows {
  private readonly pool: pg.Pool;
  private readonly cookies: Cookies;
  private readonly clock: Clock;

  constructor(pool: pg.Pool, cookies: Cookies, clock: Clock) {
    this.pool = pool;
    this.cookies = cookies;
    this.clock = clock;
  }

  async begin(res: Response, flow: Flow): Promise<void> {
    const token = freshToken();
    const until = new Date(this.clock.now() + LASTS_MS);
    await this.pool.query('INSERT INTO flow (token_digest, data, until) VALUES ($1, $2, $3)', [
      tokenDigest(token),
      flow,
      until,
    ]);
    this.cookies.set(res, 'flow', token);
  }

  /** Takes it; it is there no second time. */
  async end<K extends Flow['kind']>(req: Request, res: Response, kind: K): Promise<Extract<Flow, { kind: K }> | null> {
    const found = await this.peek(req, kind);
    if (!found) return null;
    this.cookies.clear(res, 'flow');
    const { rowCount } = await this.pool.query('DELETE FROM flow WHERE token_digest = $1', [this.digest(req)]);
    return rowCount === 1 ? found : null;
  }

  /** Looks at it; a wrong answer may be given again. */
  async peek<K extends Flow['kind']>(req: Request, kind: K): Promise<Extract<Flow, { kind: K }> | null> {
    const digest = this.digest(req);
    if (!digest) return null;
    const { rows } = await this.pool.query<{ data: Flow }>(
      'SELECT data FROM flow WHERE token_digest = $1 AND until > $2',
      [digest, new Date(this.clock.now())],
    );
    const flow = rows[0]?.data;
    return flow?.kind === kind ? (flow as Extract<Flow, { kind: K }>) : null;
  }

  private digest(req: Request): Buffer | null {
    const token = this.cookies.read(req.headers, 'flow');
    return token === null ? null : tokenDigest(token);
  }
}
