import { codeSchema, passkeyNameSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { sessionOf } from '../accounts/admission.ts';
import { newCodeSecret, stepOfCode } from '../accounts/codes.ts';
import { newPasskey, newPasskeyChallenge } from '../accounts/passkeys.ts';
import { deletePasskey, findAccount, insertPasskey, listPasskeys, setCodeSecret, useStep } from '../db/accounts.ts';
import { Refusal } from '../errors.ts';
import type { Services } from '../services.ts';
import { ownAccount } from './account.ts';
import { asks } from './asks.ts';

/** Second proofs of who somebody is: codes of an authenticator, and passkeys. */
export function proofRoutes(services: Services): Router {
  const { pool, clock, accounts } = services;
  const { flows, box, origin } = accounts;
  const router = Router();

  router.post('/account/code', async (_req, res) => {
    const accountId = ownAccount(sessionOf(res));
    const { login } = (await findAccount(pool, accountId))!;
    const made = newCodeSecret(login ?? 'Rouse');
    // kept for good only when the first right code has come
    await flows.begin(res, { kind: 'new-code', sealed: box.seal(made.secret).toString('base64') });
    res.json(made);
  });

  router.put('/account/code', asks(codeSchema), async (req, res) => {
    const { code } = req.body;
    const accountId = ownAccount(sessionOf(res));
    const flow = await flows.peek(req, 'new-code');
    const sealed = flow && Buffer.from(flow.sealed, 'base64');
    const step = sealed && stepOfCode(box.open(sealed), code, clock.now());
    if (!sealed || step === null)
      throw new Refusal('bad-request', 'This code is not the present one of the new secret.', { path: 'code' });
    await flows.end(req, res, 'new-code');
    await setCodeSecret(pool, accountId, sealed);
    await useStep(pool, accountId, step);
    res.json({ hasCodes: true });
  });

  router.delete('/account/code', async (_req, res) => {
    const session = sessionOf(res);
    if (session.way === 'password')
      throw new Refusal('not-so', 'Codes are given up by whoever has signed in with one, or with a passkey.');
    await setCodeSecret(pool, ownAccount(session), null);
    res.json({ hasCodes: false });
  });

  router.post('/account/passkeys/challenge', async (_req, res) => {
    const accountId = ownAccount(sessionOf(res));
    const account = (await findAccount(pool, accountId))!;
    const name = account.login ?? sessionOf(res).member?.name ?? 'Rouse';
    const options = await newPasskeyChallenge(origin, { accountId, name }, await listPasskeys(pool, accountId));
    await flows.begin(res, { kind: 'new-passkey', challenge: options.challenge });
    res.json(options);
  });

  router.post('/account/passkeys', asks(passkeyNameSchema), async (req, res) => {
    const { label, answer } = req.body;
    const accountId = ownAccount(sessionOf(res));
    const flow = await flows.end(req, res, 'new-passkey');
    const key = flow && (await newPasskey(origin, flow.challenge, answer));
    if (!key)
      throw new Refusal('bad-request', 'The device did not answer as it was asked; try again.', { path: 'answer' });
    await insertPasskey(pool, { ...key, accountId, label, madeAt: new Date(clock.now()) });
    res.status(201).json({ id: key.credentialId });
  });

  router.delete('/account/passkeys/:credential', async (req, res) => {
    if (!(await deletePasskey(pool, ownAccount(sessionOf(res)), String(req.params['credential']))))
      throw new Refusal('not-found', 'There is no such passkey.');
    res.json({ deleted: true });
  });

  return router;
}
