import {
  type AuthenticationResponseJSON,
  generateAuthenticationOptions,
  generateRegistrationOptions,
  type PublicKeyCredentialCreationOptionsJSON,
  type PublicKeyCredentialRequestOptionsJSON,
  type RegistrationResponseJSON,
  verifyAuthenticationResponse,
  verifyRegistrationResponse,
} from '@simplewebauthn/server';
import type pg from 'pg';
import { countPasskey, findPasskey, type PasskeyRow } from '../db/accounts.ts';

type Transports = NonNullable<RegistrationResponseJSON['response']['transports']>;

/** What a device is asked that signs in: it shows whom it knows by itself. */
export const passkeyChallenge = (origin: URL): Promise<PublicKeyCredentialRequestOptionsJSON> =>
  generateAuthenticationOptions({ rpID: origin.hostname, userVerification: 'required' });

/** The account that a device has signed for, null for a wrong answer. */
export async function answerOfPasskey(
  pool: pg.Pool,
  origin: URL,
  challenge: string,
  answer: Record<string, unknown>,
): Promise<string | null> {
  const response = answer as unknown as AuthenticationResponseJSON;
  const key = typeof response.id === 'string' ? await findPasskey(pool, response.id) : null;
  if (!key) return null;
  const { verified, authenticationInfo } = await verifyAuthenticationResponse({
    response,
    expectedChallenge: challenge,
    expectedOrigin: origin.origin,
    expectedRPID: origin.hostname,
    credential: {
      id: key.credentialId,
      publicKey: new Uint8Array(key.publicKey),
      counter: key.counter,
      transports: key.transports as Transports,
    },
  }).catch(() => ({ verified: false as const, authenticationInfo: null }));
  if (!verified) return null;
  await countPasskey(pool, key.credentialId, authenticationInfo.newCounter);
  return key.accountId;
}

/** What a device is asked that is to be known from now on. */
export const newPasskeyChallenge = (
  origin: URL,
  who: { accountId: string; name: string },
  known: readonly PasskeyRow[],
): Promise<PublicKeyCredentialCreationOptionsJSON> =>
  generateRegistrationOptions({
    rpName: 'Rouse',
    rpID: origin.hostname,
    userName: who.name,
    userID: new Uint8Array(Buffer.from(who.accountId.replaceAll('-', ''), 'hex')),
    excludeCredentials: known.map((k) => ({ id: k.credentialId })),
    authenticatorSelection: { residentKey: 'required', userVerification: 'required' },
  });

/** The key of a device that has answered, null for a wrong answer. */
export async function newPasskey(
  origin: URL,
  challenge: string,
  answer: Record<string, unknown>,
): Promise<Pick<PasskeyRow, 'credentialId' | 'publicKey' | 'counter' | 'transports'> | null> {
  const found = await verifyRegistrationResponse({
    response: answer as unknown as RegistrationResponseJSON,
    expectedChallenge: challenge,
    expectedOrigin: origin.origin,
    expectedRPID: origin.hostname,
  }).catch(() => null);
  if (!found?.verified) return null;
  const { credential } = found.registrationInfo;
  return {
    credentialId: credential.id,
    publicKey: Buffer.from(credential.publicKey),
    counter: credential.counter,
    transports: credential.transports ?? [],
  };
}
