import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { v7 as uuidv7 } from 'uuid';

/** The name of this server among others: it lies beside what the server keeps, so that one that comes back is the same. */
export function serverIdOf(outboxDir: string): string {
  mkdirSync(outboxDir, { recursive: true });
  const file = path.join(outboxDir, 'server-id');
  if (!existsSync(file)) writeFileSync(file, uuidv7(), { mode: 0o600 });
  return readFileSync(file, 'utf8').trim();
}
