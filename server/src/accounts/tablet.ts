import type { IncomingMessage } from 'node:http';
import type pg from 'pg';
import { asOperator } from '../db/pool.ts';
import { findTablet, type TabletRow } from '../db/tablets.ts';
import type { Cookies } from './cookies.ts';
import { readOperatorToken } from './links.ts';

/** The tablet of a crew room that a request comes from; null for any other browser. */
export async function tabletOf(
  pool: pg.Pool,
  cookies: Cookies,
  { headers }: Pick<IncomingMessage, 'headers'>,
): Promise<(TabletRow & { operatorId: string }) | null> {
  const token = readOperatorToken(cookies.read(headers, 'tablet') ?? '');
  if (!token) return null;
  const tablet = await asOperator(pool, token.operatorId, (tx) => findTablet(tx, token.digest));
  return tablet && { ...tablet, operatorId: token.operatorId };
}
