import { freshToken, tokenDigest } from './tokens.ts';

/** A token that says for which operator it is, so that it can be looked up behind the fence of that operator. */
export interface OperatorToken {
  operatorId: string;
  digest: Buffer;
}

/** @returns the token as it is handed over, and what is kept of it */
export function newOperatorToken(operatorId: string): { token: string; digest: Buffer } {
  const secret = freshToken();
  return { token: `${operatorId}.${secret}`, digest: tokenDigest(secret) };
}

const SHAPE = /^([0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12})\.([\w-]{20,100})$/;

/** null for what is no such token */
export function readOperatorToken(token: string): OperatorToken | null {
  const found = SHAPE.exec(token);
  return found && { operatorId: found[1]!, digest: tokenDigest(found[2]!) };
}
