import {
  codeSchema,
  demoSignInSchema,
  passkeyAnswerSchema,
  passwordSignInSchema,
  pinSignInSchema,
} from '@rouse/core/contract';
import { type Request, type Response, Router } from 'express';
import { stepOfCode } from '../accounts/codes.ts';
import { answerOfPasskey, passkeyChallenge } from '../accounts/passkeys.ts';
import { hashPassword, isPassword, isWeaklyKept } from '../accounts/passwords.ts';
import type { Sessions, SignInWay } from '../accounts/sessions.ts';
import { tabletOf } from '../accounts/tablet.ts';
import { findAccount, findAccountByLogin, setPassword, useStep } from '../db/accounts.ts';
import { findPin } from '../db/people.ts';
import { asOperator } from '../db/pool.ts';
import { Refusal } from '../errors.ts';
import type { Services } from '../services.ts';
import { asks } from './asks.ts';
import { demoPeople, saySession } from './session-message.ts';

/** Signing in by name and password, with a code where there is one, or by a passkey. */
export function signInRoutes(services: Services): Router {
  const { pool, clock, accounts } = services;
  const { flows, limits, box } = accounts;
  const router = Router();

  router.post('/session/password', asks(passwordSignInSchema), async (req, res) => {
    const { login, password } = req.body;
    const key = login.trim().toLowerCase();
    await limits.signInByAddress.count(req.ip ?? '');
    await limits.signInByAccount.count(key);
    const account = await findAccountByLogin(pool, login.trim());
    const right = await isPassword(account?.password ?? null, password);
    if (!account || !right) throw new Refusal('not-known', 'This name and this password do not belong together.');
    await limits.signInByAccount.forgive(key);
    if (isWeaklyKept(account.password!)) await setPassword(pool, account.accountId, await hashPassword(password));
    if (account.codeSecret === null) return signedIn(services, req, res, account.accountId, 'password');
    await flows.begin(res, { kind: 'code', accountId: account.accountId });
    res.status(202).json({ need: 'code' });
  });

  router.post('/session/code', asks(codeSchema), async (req, res) => {
    const { code } = req.body;
    const flow = await flows.peek(req, 'code');
    if (!flow) throw new Refusal('not-known', 'Begin with the name and the password again.');
    await limits.signInByAccount.count(`code ${flow.accountId}`);
    const account = await findAccount(pool, flow.accountId);
    const step = account?.codeSecret ? stepOfCode(box.open(account.codeSecret), code, clock.now()) : null;
    if (step === null) throw new Refusal('not-known', 'This code is not the present one.');
    if (!(await useStep(pool, flow.accountId, step)))
      throw new Refusal('not-known', 'This code was used already; wait for the next one.');
    await flows.end(req, res, 'code');
    await limits.signInByAccount.forgive(`code ${flow.accountId}`);
    await signedIn(services, req, res, flow.accountId, 'code');
  });

  router.post('/session/passkey/challenge', async (req, res) => {
    await limits.signInByAddress.count(req.ip ?? '');
    const options = await passkeyChallenge(accounts.origin);
    await flows.begin(res, { kind: 'passkey', challenge: options.challenge });
    res.json(options);
  });

  router.post('/session/passkey', asks(passkeyAnswerSchema), async (req, res) => {
    const answer = req.body;
    const flow = await flows.end(req, res, 'passkey');
    const accountId = flow && (await answerOfPasskey(pool, accounts.origin, flow.challenge, answer));
    if (accountId === null) throw new Refusal('not-known', 'This passkey is not known here.');
    await signedIn(services, req, res, accountId, 'passkey');
  });

  return router;
}

/** Signing in without a name: as one of the people of the demo, or with a PIN on a tablet of the crew room. */
export function namelessSignInRoutes(services: Services): Router {
  const { pool, accounts } = services;
  const { limits } = accounts;
  const router = Router();

  router.post('/session/demo', asks(demoSignInSchema), async (req, res) => {
    const { person } = req.body;
    const demo = await demoPeople(services);
    if (!demo?.people.some((p) => p.personId === person))
      throw new Refusal('not-known', 'There is no such person in the demo.');
    await signedIn(services, req, res, person, 'demo', { operatorId: demo.operatorId });
  });

  router.post('/session/pin', asks(pinSignInSchema), async (req, res) => {
    const { person, pin } = req.body;
    const tablet = await tabletOf(pool, accounts.cookies, req);
    if (!tablet) throw new Refusal('not-known', 'This is no tablet of the crew room; an administrator enrols it.');
    await limits.signInByAccount.count(`pin ${person}`);
    const kept = await asOperator(pool, tablet.operatorId, (tx) => findPin(tx, person));
    if (!(await isPassword(kept, pin))) throw new Refusal('not-known', 'This is not the PIN of this person.');
    await limits.signInByAccount.forgive(`pin ${person}`);
    await signedIn(services, req, res, person, 'pin', { operatorId: tablet.operatorId, tabletId: tablet.tabletId });
  });

  return router;
}

async function signedIn(
  services: Services,
  req: Request,
  res: Response,
  accountId: string,
  way: SignInWay,
  where: Parameters<Sessions['begin']>[4] = {},
): Promise<void> {
  const session = await services.accounts.sessions.begin(req, res, accountId, way, where);
  res.status(201).json(await saySession(services, req, session));
}
