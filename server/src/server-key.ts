import { randomBytes } from 'node:crypto';
import fs from 'node:fs';

/** The key of this server, made at its first start. It stays on its disk: a copy of the database alone opens nothing. */
export function serverKey(file: string): Buffer {
  try {
    fs.writeFileSync(file, randomBytes(32).toString('base64'), { mode: 0o600, flag: 'wx' });
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'EEXIST')) throw error;
  }
  return Buffer.from(fs.readFileSync(file, 'utf8'), 'base64');
}
