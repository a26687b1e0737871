import * as oidc from 'openid-client';
import type { IdentityProviderRow } from '../db/identity-providers.ts';
import type { SecretBox } from './secret-box.ts';

const SIGN_ON_BACK = '/api/session/sign-on-back';

type Started = { to: URL; verifier: string; state: string; nonce: string };

/** Organisations' identity providers, each discovered when it is first asked. */
export class SignOn {
  private readonly origin: URL;
  private readonly box: SecretBox;
  private readonly known = new Map<string, Promise<oidc.Configuration>>();

  constructor(origin: URL, box: SecretBox) {
    this.origin = origin;
    this.box = box;
  }

  /** Where a browser is sent, and what it has to bring back. @throws Error when the provider does not answer */
  async begin(provider: IdentityProviderRow): Promise<Started> {
    const verifier = oidc.randomPKCECodeVerifier();
    const state = oidc.randomState();
    const nonce = oidc.randomNonce();
    const to = oidc.buildAuthorizationUrl(await this.discovered(provider), {
      redirect_uri: new URL(SIGN_ON_BACK, this.origin).href,
      scope: 'openid',
      state,
      nonce,
      code_challenge: await oidc.calculatePKCECodeChallenge(verifier),
      code_challenge_method: 'S256',
    });
    return { to, verifier, state, nonce };
  }

  /** Whom the provider means, by issuer and subject: an address that it merely claims joins nothing. @throws Error for a wrong answer */
  async end(
    provider: IdentityProviderRow,
    back: string,
    { verifier, state, nonce }: Omit<Started, 'to'>,
  ): Promise<{ issuer: string; subject: string }> {
    const tokens = await oidc.authorizationCodeGrant(
      await this.discovered(provider),
      // the registered address, whatever host a proxy has asked us by
      new URL(back, this.origin),
      { pkceCodeVerifier: verifier, expectedState: state, expectedNonce: nonce, idTokenExpected: true },
    );
    const { iss, sub } = tokens.claims()!;
    return { issuer: iss, subject: sub };
  }

  private discovered({ issuer, clientId, clientSecret }: IdentityProviderRow): Promise<oidc.Configuration> {
    const key = `${issuer} ${clientId} ${clientSecret.toString('hex')}`;
    const known = this.known.get(key);
    if (known) return known;
    const asked = oidc.discovery(
      new URL(issuer),
      clientId,
      this.box.open(clientSecret),
      undefined,
      // a server that only this machine reaches may ask a provider on it without TLS
      this.origin.protocol === 'http:' && isLoopback(issuer) ? { execute: [oidc.allowInsecureRequests] } : undefined,
    );
    this.known.set(key, asked);
    asked.catch(() => this.known.delete(key));
    return asked;
  }
}

const isLoopback = (issuer: string): boolean => /^http:\/\/(127\.0\.0\.1|localhost)[:/]/.test(`${issuer}/`);
