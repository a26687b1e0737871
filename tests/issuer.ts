import { createHash, randomUUID } from 'node:crypto';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { exportJWK, generateKeyPair, SignJWT } from 'jose';

export interface Issuer {
  url: string;
  /** who is signed in there */
  signedInAs: string;
  close(): void;
}

/** A small OpenID provider that asks nobody: code flow with PKCE, as an organisation's own. */
export async function startIssuer(clientId: string, secret: string): Promise<Issuer> {
  const { publicKey, privateKey } = await generateKeyPair('RS256');
  const jwk = { ...(await exportJWK(publicKey)), kid: 'test', alg: 'RS256', use: 'sig' };
  const codes = new Map<string, { sub: string; nonce: string; challenge: string; redirect: string }>();
  const server = createServer((req, res) => {
    void (async () => {
      const url = new URL(req.url ?? '/', self.url);
      const json = (body: unknown, status = 200): void => {
        res.writeHead(status, { 'content-type': 'application/json' }).end(JSON.stringify(body));
      };
      switch (url.pathname) {
        case '/.well-known/openid-configuration':
          return json({
            issuer: self.url,
            authorization_endpoint: `${self.url}/auth`,
            token_endpoint: `${self.url}/token`,
            jwks_uri: `${self.url}/jwks`,
            response_types_supported: ['code'],
            subject_types_supported: ['public'],
            id_token_signing_alg_values_supported: ['RS256'],
            code_challenge_methods_supported: ['S256'],
          });
        case '/jwks':
          return json({ keys: [jwk] });
        case '/auth': {
          const asked = url.searchParams;
          const code = randomUUID();
          const back = new URL(asked.get('redirect_uri')!);
          codes.set(code, {
            sub: self.signedInAs,
            nonce: asked.get('nonce')!,
            challenge: asked.get('code_challenge')!,
            redirect: back.href,
          });
          back.searchParams.set('code', code);
          back.searchParams.set('state', asked.get('state')!);
          return void res.writeHead(302, { location: back.href }).end();
        }
        case '/token': {
          let body = '';
          for await (const part of req) body += String(part);
          const form = new URLSearchParams(body);
          const known = codes.get(form.get('code') ?? '');
          codes.delete(form.get('code') ?? '');
          const basic = Buffer.from(req.headers.authorization?.slice(6) ?? '', 'base64').toString();
          const client = [form.get('client_id'), form.get('client_secret')].join(':');
          const isClient = [client, decodeURIComponent(basic)].includes(`${clientId}:${secret}`);
          const challenge = createHash('sha256').update(form.get('code_verifier') ?? '').digest('base64url'); // oxfmt-ignore
          if (!known || !isClient || form.get('redirect_uri') !== known.redirect || challenge !== known.challenge)
            return json({ error: 'invalid_grant' }, 400);
          const idToken = await new SignJWT({ nonce: known.nonce })
            .setProtectedHeader({ alg: 'RS256', kid: 'test' })
            .setIssuer(self.url)
            .setAudience(clientId)
            .setSubject(known.sub)
            .setIssuedAt()
            .setExpirationTime('5m')
            .sign(privateKey);
          return json({ access_token: randomUUID(), token_type: 'Bearer', expires_in: 300, id_token: idToken });
        }
        default:
          return json({}, 404);
      }
    })();
  });
  await new Promise<void>((listens) => server.listen(0, '127.0.0.1', listens));
  const self: Issuer = {
    url: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    signedInAs: 'jane',
    close() {
      server.closeAllConnections();
      server.close();
    },
  };
  return self;
}
