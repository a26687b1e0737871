import type pg from 'pg';
import type { Clock } from '../clock.ts';
import { Cookies } from './cookies.ts';
import { Flows } from './flows.ts';
import { type Limits, openLimits, sweep } from './limits.ts';
import { SecretBox } from './secret-box.ts';
import { LONGEST_SESSION_MS, Sessions } from './sessions.ts';
import { SignOn } from './sign-on.ts';

const SWEEP_EVERY_MS = 10 * 60_000;

export interface AccountsOptions {
  pool: pg.Pool;
  clock: Clock;
  /** the address that browsers open */
  origin: URL;
  /** whether other servers know the same sign-ins */
  shared: boolean;
  /** 32 bytes that seal what the database keeps */
  key: Buffer;
  /** of one session: far above what a page asks that works a start, so that it stops no answer of a pilot */
  requestsIn10s: number;
  holdsRun: (accountId: string) => boolean;
  onEnded: (sessionId: string) => void;
}

/** Who people are: sign-ins, what they were sent away with, and how often they may try. */
export class Accounts {
  readonly origin: URL;
  readonly cookies: Cookies;
  readonly sessions: Sessions;
  readonly flows: Flows;
  readonly limits: Limits;
  readonly box: SecretBox;
  readonly signOn: SignOn;
  private readonly sweeping: NodeJS.Timeout;

  constructor({ pool, clock, origin, shared, key, requestsIn10s, holdsRun, onEnded }: AccountsOptions) {
    this.origin = origin;
    this.cookies = new Cookies(origin, shared);
    this.sessions = new Sessions({ pool, cookies: this.cookies, clock, holdsRun, onEnded });
    this.flows = new Flows(pool, this.cookies, clock);
    this.limits = openLimits(pool, requestsIn10s);
    this.box = new SecretBox(key);
    this.signOn = new SignOn(origin, this.box);
    // what has run out is no danger, only rows: where the database is away they go the next time
    this.sweeping = setInterval(
      () => void sweep(pool, new Date(clock.now()), LONGEST_SESSION_MS).catch(() => undefined),
      SWEEP_EVERY_MS,
    ).unref();
  }

  close(): void {
    clearInterval(this.sweeping);
  }
}
