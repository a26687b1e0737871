import type { LinkMade } from '@rouse/core/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { foundOwn, Guest } from '../guest.ts';
import { type Issuer, startIssuer } from '../issuer.ts';
import { Caller, Rouse } from '../rouse.ts';

const SECRET = 'between-rouse-and-the-provider';
let rouse: Rouse;
let founder: Guest;
let issuer: Issuer;
let operator: string;
beforeAll(async () => {
  issuer = await startIssuer('rouse', SECRET);
  rouse = await Rouse.start();
  // the way back is the registered address
  founder = await foundOwn(rouse.base);
  operator = (await founder.session()).person!.member!.operatorId;
  const provider = { label: 'Alder staff', issuer: issuer.url, clientId: 'rouse', clientSecret: SECRET };
  expect((await founder.send('PUT', '/operator/identity-provider', provider)).status).toBe(200);
});
afterAll(async () => {
  issuer.close();
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

/** Goes away and comes back as a browser would. @returns where it ends */
async function signOn(guest: Guest, invitation?: string): Promise<string> {
  const query = invitation === undefined ? '' : `?invitation=${encodeURIComponent(invitation)}`;
  const away = await guest.send('GET', `/session/sign-on/${operator}${query}`);
  expect(away.status).toBe(302);
  const there = await fetch(away.headers.get('location')!, { redirect: 'manual' });
  const back = new URL(there.headers.get('location')!);
  const end = await guest.send('GET', (back.pathname + back.search).replace('/api', ''));
  return end.headers.get('location') ?? `${end.status} ${end.text}`;
}

test('whoever the provider knows and Rouse does not is told to follow an invitation', async () => {
  const guest = new Guest(rouse.base);
  expect((await guest.session()).signOn).toEqual([{ operatorId: operator, label: 'Alder staff' }]);
  expect(await signOn(guest)).toBe('/sign-in?sign-on=unknown');
  expect((await guest.session()).person).toBeNull();
});

test('an invitation joins by the sign-on; after it the sign-on alone is enough, and is a second proof', async () => {
  const { link } = (await founder.send('POST', '/invitations', { name: 'Jane', roles: ['engineer'] })).body as LinkMade;
  const token = link.split('/join/')[1]!;
  const guest = new Guest(rouse.base);
  expect(await signOn(guest, token)).toBe('/');
  const { person } = await guest.session();
  expect(person).toMatchObject({ way: 'sign-on', member: { name: 'Jane', roles: ['engineer'] } });
  const again = new Guest(rouse.base);
  expect(await signOn(again)).toBe('/');
  expect((await again.session()).person!.personId).toBe(person!.personId);
  // the link is used up, and another subject is another person
  issuer.signedInAs = 'joe';
  expect(await signOn(new Guest(rouse.base), token)).toBe('/sign-in?sign-on=unknown');
  expect(await signOn(new Guest(rouse.base))).toBe('/sign-in?sign-on=unknown');
  issuer.signedInAs = 'jane';
  await founder.send('DELETE', `/people/${person!.personId}`);
  expect(await signOn(again)).toBe('/');
  expect((await again.session()).person!.member).toBeNull();
});

test('a way back that nobody began, or that is repeated, signs nobody in', async () => {
  const guest = new Guest(rouse.base);
  const forged = await guest.send('GET', '/session/sign-on-back?code=x&state=y');
  expect(forged.headers.get('location')).toBe('/sign-in?sign-on=again');
  const away = await guest.send('GET', `/session/sign-on/${operator}`);
  const flow = guest.cookie;
  const there = await fetch(away.headers.get('location')!, { redirect: 'manual' });
  const back = there.headers.get('location')!;
  // the code of one browser in another one
  const thief = await fetch(back.replace(/^http:\/\/[^/]+/, rouse.base), { redirect: 'manual' });
  expect(thief.headers.get('location')).toBe('/sign-in?sign-on=again');
  const once = await fetch(back.replace(/^http:\/\/[^/]+/, rouse.base), {
    redirect: 'manual',
    headers: { cookie: flow },
  });
  expect(once.headers.get('location')).not.toBe('/sign-in?sign-on=again');
  const twice = await fetch(back.replace(/^http:\/\/[^/]+/, rouse.base), {
    redirect: 'manual',
    headers: { cookie: flow },
  });
  expect(twice.headers.get('location')).toBe('/sign-in?sign-on=again');
});

test('the demo, which anybody may enter, sends this server nowhere', async () => {
  const administrator = new Caller(rouse.base, 'administrator');
  const wanted = { label: 'Anybody', issuer: issuer.url, clientId: 'rouse', clientSecret: SECRET };
  const { status, body } = await administrator.put('/operator/identity-provider', wanted);
  expect(status).toBe(422);
  expect(body.error?.message).toContain('The demo');
});

test('a provider that does not answer is said, and other ways stay open', async () => {
  const away = { label: 'Away', issuer: 'http://127.0.0.1:9', clientId: 'rouse', clientSecret: SECRET };
  await founder.send('PUT', '/operator/identity-provider', away);
  const answer = await new Guest(rouse.base).send('GET', `/session/sign-on/${operator}`);
  expect(answer).toMatchObject({
    status: 502,
    body: { error: { code: 'sign-on-away', message: 'Away does not answer.' } },
  });
  await founder.send('DELETE', '/operator/identity-provider');
  expect((await new Guest(rouse.base).session()).signOn).toEqual([]);
});
