import { identityProviderSchema, type OperatorMessage, operatorSchema } from '@rouse/core/contract';
import { Router } from 'express';
import { audit } from '../db/audit.ts';
import { deleteIdentityProvider, findIdentityProvider, putIdentityProvider } from '../db/identity-providers.ts';
import { getOperator, updateOperator } from '../db/operators.ts';
import { Refusal } from '../errors.ts';
import { deskOf, type Services } from '../services.ts';
import { asks } from './asks.ts';

/** The operator itself: its name, and its rules of signing in. */
export function operatorRoutes(services: Services): Router {
  const { accounts } = services;
  const router = Router();

  router.get('/operator', async (_req, res) => {
    const message = await deskOf(services, res).inTx(async (tx): Promise<OperatorMessage> => {
      const { name, place, codesAsked, demo } = await getOperator(tx);
      const provider = await findIdentityProvider(tx);
      return {
        name,
        place,
        codesAsked,
        demo,
        identityProvider: provider && { label: provider.label, issuer: provider.issuer, clientId: provider.clientId },
      };
    });
    res.json(message);
  });

  router.put('/operator', asks(operatorSchema), async (req, res) => {
    const wanted = req.body;
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      await updateOperator(tx, wanted);
      const asked = wanted.codesAsked ? 'asked for' : 'not asked for';
      await audit(tx, now(), who.name, 'operator', `${wanted.name}, ${wanted.place}; a second proof is ${asked}`);
    });
    accounts.sessions.forgetAll();
    res.json(wanted);
  });

  router.put('/operator/identity-provider', asks(identityProviderSchema), async (req, res) => {
    const { clientSecret, ...rest } = req.body;
    const { who, inTx, now } = deskOf(services, res);
    // whoever looks around sends this server to no address of theirs
    if (who.demo) throw new Refusal('not-so', 'The demo has no identity provider of its own.');
    await inTx(async (tx) => {
      await putIdentityProvider(tx, { ...rest, clientSecret: accounts.box.seal(clientSecret) });
      await audit(tx, now(), who.name, 'identity-provider', `${rest.label}: ${rest.issuer}`);
    });
    res.json(rest);
  });

  router.delete('/operator/identity-provider', async (_req, res) => {
    const { who, inTx, now } = deskOf(services, res);
    await inTx(async (tx) => {
      await deleteIdentityProvider(tx);
      await audit(
        tx,
        now(),
        who.name,
        'identity-provider-gone',
        'People sign in here, and not by a provider of their own',
      );
    });
    res.json({ deleted: true });
  });

  return router;
}
