import { hash, parseOptions, verify } from '@node-rs/argon2';
import { freshToken } from './tokens.ts';

/** argon2id as OWASP asks for it: 19 MiB, two passes, one lane. */
const POLICY = { memoryCost: 19_456, timeCost: 2, parallelism: 1 };
/** hashed at the same time: memory stays bounded, and threads are left for what is written to the disk */
const AT_ONCE = 2;

let working = 0;
const waiting: (() => void)[] = [];

async function inTurn<T>(work: () => Promise<T>): Promise<T> {
  if (working >= AT_ONCE) await new Promise<void>((go) => waiting.push(go));
  else working++;
  try {
    return await work();
  } finally {
    const next = waiting.shift();
    if (next) next();
    else working--;
  }
}

let dummy: Promise<string> | null = null;

/** A password or a PIN as it is kept. */
export const hashPassword = (password: string): Promise<string> => inTurn(() => hash(password, POLICY));

/** Whether it is the one that is kept. Where none is kept it takes as long, and is wrong. */
export async function isPassword(kept: string | null, password: string): Promise<boolean> {
  dummy ??= hashPassword(freshToken());
  const against = kept ?? (await dummy);
  return (await inTurn(() => verify(against, password))) && kept !== null;
}

/** Whether it was kept by an earlier, weaker policy. */
export function isWeaklyKept(kept: string): boolean {
  const { memoryCost, timeCost } = parseOptions(kept);
  return (memoryCost ?? 0) < POLICY.memoryCost || (timeCost ?? 0) < POLICY.timeCost;
}
