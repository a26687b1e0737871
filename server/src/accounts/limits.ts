import type pg from 'pg';
import {
  type RateLimiterAbstract,
  RateLimiterMemory,
  RateLimiterPostgres,
  type RateLimiterRes,
} from 'rate-limiter-flexible';
import { Refusal } from '../errors.ts';

const MINUTE_S = 60;

/** How often something may be tried: by address, and by account whoever asks. Nobody is locked out for longer than that. */
export interface Limit {
  /** Counts a try before it is looked at. @throws Refusal too-many-tries */
  count(key: string): Promise<void>;
  /** It was right: those before are forgiven. */
  forgive(key: string): Promise<void>;
}

export interface Limits {
  signInByAddress: Limit;
  signInByAccount: Limit;
  linkByAddress: Limit;
  /** everything that one session asks: a page that runs wild, or a program in its place */
  requestBySession: Limit;
}

/** Counted in the database; in the memory while it is away. */
export function openLimits(pool: pg.Pool, requestsIn10s: number): Limits {
  return {
    signInByAddress: limit(pool, 'address', 60, 10 * MINUTE_S),
    signInByAccount: limit(pool, 'account', 5, 15 * MINUTE_S),
    linkByAddress: limit(pool, 'link', 30, 10 * MINUTE_S),
    requestBySession: requestLimit(requestsIn10s),
  };
}

const REQUESTS_WITHIN_S = 10;

/** Counted in memory: a request waits for no database. */
function requestLimit(points: number): Limit {
  return counted(new RateLimiterMemory({ points, duration: REQUESTS_WITHIN_S }));
}

function limit(pool: pg.Pool, keyPrefix: string, points: number, duration: number): Limit {
  const limiter = new RateLimiterPostgres({
    storeClient: pool,
    tableName: 'rate_limit',
    tableCreated: true,
    clearExpiredByTimeout: false,
    keyPrefix,
    points,
    duration,
    inMemoryBlockOnConsumed: points + 1,
    insuranceLimiter: new RateLimiterMemory({ points, duration }),
  });
  return counted(limiter);
}

function counted(limiter: RateLimiterAbstract): Limit {
  return {
    async count(key) {
      try {
        await limiter.consume(key);
      } catch (refused) {
        if (refused instanceof Error) throw refused;
        const wait_s = Math.ceil((refused as RateLimiterRes).msBeforeNext / 1000);
        throw new Refusal('too-many-tries', 'Too many tries, or requests.', { retryAfter_s: wait_s });
      }
    },
    async forgive(key) {
      await limiter.delete(key);
    },
  };
}

/** Rows of the limiter, flows and sessions that have run out. */
export async function sweep(pool: pg.Pool, now: Date, longest_ms: number): Promise<void> {
  await pool.query('DELETE FROM rate_limit WHERE expire < $1', [now.getTime()]);
  await pool.query('DELETE FROM flow WHERE until < $1', [now]);
  await pool.query('DELETE FROM session WHERE made_at < $1', [new Date(now.getTime() - longest_ms)]);
}
