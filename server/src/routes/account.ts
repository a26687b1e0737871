import { type AccountMessage, newPasswordSchema, newPinSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { memberOf, sessionOf } from '../accounts/admission.ts';
import { hashPassword, isPassword } from '../accounts/passwords.ts';
import type { Session } from '../accounts/sessions.ts';
import { findAccount, listPasskeys, setLogin } from '../db/accounts.ts';
import { findPin, setPin } from '../db/people.ts';
import { asOperator } from '../db/pool.ts';
import { Refusal } from '../errors.ts';
import type { Services } from '../services.ts';
import { asks } from './asks.ts';

/** What somebody signs in with by name: their own, whatever operator they work for. */
export function accountRoutes(services: Services): Router {
  const { pool, accounts } = services;
  const { sessions, limits } = accounts;
  const router = Router();

  router.get('/account', async (_req, res) => {
    const { accountId, member } = sessionOf(res);
    const account = (await findAccount(pool, accountId))!;
    const pin = member && (await asOperator(pool, member.operatorId, (tx) => findPin(tx, accountId)));
    res.json({
      login: account.login,
      hasPassword: account.password !== null,
      hasCodes: account.codeSecret !== null,
      hasPin: pin !== null,
      passkeys: (await listPasskeys(pool, accountId)).map((k) => ({
        id: k.credentialId,
        label: k.label,
        madeAt: k.madeAt.toISOString(),
      })),
    } satisfies AccountMessage);
  });

  router.put('/account/password', asks(newPasswordSchema), async (req, res) => {
    const { login, password, next } = req.body;
    const session = sessionOf(res);
    const accountId = ownAccount(session);
    const account = (await findAccount(pool, accountId))!;
    await limits.signInByAccount.count(`own ${accountId}`);
    if (account.password !== null && !(await isPassword(account.password, password ?? '')))
      throw new Refusal('bad-request', 'This is not your present password.', { path: 'password' });
    await limits.signInByAccount.forgive(`own ${accountId}`);
    if (!(await setLogin(pool, accountId, login, await hashPassword(next))))
      throw new Refusal('bad-request', 'Somebody signs in with this name already; choose another one.', {
        path: 'login',
      });
    // whoever knew the old one is out
    await sessions.endAll(accountId, session.sessionId);
    res.json({ login });
  });

  router.put('/account/pin', asks(newPinSchema), async (req, res) => {
    const { pin } = req.body;
    ownAccount(sessionOf(res));
    const { operatorId, personId } = memberOf(res);
    const kept = pin === null ? null : await hashPassword(pin);
    await asOperator(pool, operatorId, (tx) => setPin(tx, personId, kept));
    res.json({ hasPin: pin !== null });
  });

  return router;
}

/** Whose sign-in is changed. @throws Refusal for a person of the demo, whom everybody shares */
export function ownAccount(session: Session): string {
  if (session.way === 'demo')
    throw new Refusal('no-right', 'People of the demo belong to everybody; they keep no sign-in.');
  return session.accountId;
}
