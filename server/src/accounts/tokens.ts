import { createHash, randomBytes } from 'node:crypto';

/** 256 random bits, as they travel in a cookie, a link or a line. */
export const freshToken = (): string => randomBytes(32).toString('base64url');

/** What is kept of a token. */
export const tokenDigest = (token: string): Buffer => createHash('sha256').update(token).digest();
