import { Secret, TOTP } from 'otpauth';

const PERIOD_S = 30;

const totpOf = (secret: string, label: string): TOTP =>
  new TOTP({
    issuer: 'Rouse',
    label,
    secret: Secret.fromBase32(secret),
    algorithm: 'SHA1',
    digits: 6,
    period: PERIOD_S,
  });

/** A new secret for time-based codes, with the address that authenticators read. */
export function newCodeSecret(label: string): { secret: string; uri: string } {
  const secret = new Secret({ size: 20 }).base32;
  return { secret, uri: totpOf(secret, label).toString() };
}

/** The step that a code belongs to, one before and after allowed; null for a wrong one. Each step is good once: keep the last. */
export function stepOfCode(secret: string, code: string, now_ms: number): number | null {
  const delta = totpOf(secret, '').validate({ token: code, window: 1, timestamp: now_ms });
  return delta === null ? null : Math.floor(now_ms / 1000 / PERIOD_S) + delta;
}
