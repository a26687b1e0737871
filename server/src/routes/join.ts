import { type InvitationAsked, joinSchema } from '@rouse/core/contract';
import { type Request, Router } from 'express';
import { v7 as uuidv7 } from 'uuid';
import { readOperatorToken } from '../accounts/links.ts';
import { hashPassword } from '../accounts/passwords.ts';
import {
  findAccount,
  insertAccount,
  insertOutsideIdentity,
  listMemberships,
  setCodeSecret,
  setLogin,
} from '../db/accounts.ts';
import { audit } from '../db/audit.ts';
import { findIdentityProvider } from '../db/identity-providers.ts';
import { endInvitation, findInvitation, type InvitationRow } from '../db/invitations.ts';
import { getOperator } from '../db/operators.ts';
import { putPerson } from '../db/people.ts';
import { asOperator, type Tx } from '../db/pool.ts';
import { Refusal } from '../errors.ts';
import type { Services } from '../services.ts';
import { asks } from './asks.ts';
import { saySession } from './session-message.ts';

const overWords = 'This link is over: it was used, taken back, or is too old. An administrator makes another one.';

/** One-time links: somebody joins an operator, or chooses another password. */
export function joinRoutes(services: Services): Router {
  const { pool, clock, accounts } = services;
  const { limits, sessions } = accounts;
  const router = Router();

  /** Works on the invitation of a link; nobody else can use it meanwhile. @throws Refusal not-found */
  async function withInvitation<T>(req: Request, work: (tx: Tx, found: InvitationRow) => Promise<T>): Promise<T> {
    await limits.linkByAddress.count(req.ip ?? '');
    const token = readOperatorToken(String(req.params['token']));
    if (!token) throw new Refusal('not-found', overWords);
    return asOperator(pool, token.operatorId, async (tx) => {
      const found = await findInvitation(tx, token.digest, new Date(clock.now()));
      if (!found) throw new Refusal('not-found', overWords);
      return work(tx, found);
    });
  }

  router.get('/invitations/:token', async (req, res) => {
    const asked = await withInvitation(req, async (tx, { kind, name, roles, personId }): Promise<InvitationAsked> => {
      const { name: operator } = await getOperator(tx);
      const provider = kind === 'join' ? await findIdentityProvider(tx) : null;
      const login = personId === null ? null : ((await findAccount(tx, personId))?.login ?? null);
      return { kind, operator, name, roles, login, signOn: provider && { label: provider.label } };
    });
    res.json(asked);
  });

  router.post('/invitations/:token', asks(joinSchema), async (req, res) => {
    const join = req.body;
    const own = join.with === 'my-account' ? await sessions.of(req.headers) : null;
    if (join.with === 'my-account' && !own) throw new Refusal('signed-out', 'Sign in to your account first.');
    const password = join.with === 'password' ? await hashPassword(join.password) : null;
    const now = new Date(clock.now());
    const { accountId, operatorId } = await withInvitation(req, async (tx, found) => {
      const login = join.with === 'password' ? join.login : null;
      const accountId = own?.accountId ?? found.personId ?? uuidv7();
      if (found.kind === 'reset') {
        if (own || login === null || password === null)
          throw new Refusal('bad-request', 'Choose a name and a password.', { path: 'with' });
        await resetTo(tx, accountId, login, password);
      } else {
        if (login !== null && !(await insertAccount(tx, { accountId, login, password }, now))) throw taken();
        await putPerson(tx, { personId: accountId, name: found.name, roles: found.roles }, now);
      }
      await endInvitation(tx, found.invitationId, now);
      const words = found.kind === 'reset' ? 'has chosen another password' : `has joined as ${found.roles.join(', ')}`;
      await audit(tx, now, found.name, found.kind === 'reset' ? 'password-reset' : 'joined', `${found.name} ${words}`);
      return { accountId, operatorId: tx.operatorId };
    });
    await sessions.endAll(accountId, own?.sessionId ?? null);
    if (own) {
      await sessions.choose(req.headers, own, operatorId);
      return res.status(201).json(await saySession(services, req, (await sessions.of(req.headers))!));
    }
    const session = await sessions.begin(req, res, accountId, 'password', { operatorId });
    res.status(201).json(await saySession(services, req, session));
  });

  return router;
}

const taken = (): Refusal =>
  new Refusal('bad-request', 'Somebody signs in with this name already; choose another one.', { path: 'login' });

/** Another password, and no code any more: whoever lost one has often lost the other. @throws Refusal */
async function resetTo(tx: Tx, accountId: string, login: string, password: string): Promise<void> {
  // whoever administers one operator must not come into another one by the account of somebody who works for both
  if ((await listMemberships(tx, accountId)).length !== 1)
    throw new Refusal(
      'no-right',
      'This account works for several operators; its password is not reset by one of them.',
    );
  if (!(await setLogin(tx, accountId, login, password))) throw taken();
  await setCodeSecret(tx, accountId, null);
}

/** Somebody joins by the sign-on of the organisation. @returns the account, null where the link is over */
export async function joinBySignOn(
  { pool, clock }: Services,
  invitation: string,
  { issuer, subject }: { issuer: string; subject: string },
  known: string | null,
): Promise<string | null> {
  const token = readOperatorToken(invitation);
  if (!token) return null;
  const now = new Date(clock.now());
  return asOperator(pool, token.operatorId, async (tx) => {
    const found = await findInvitation(tx, token.digest, now);
    if (found?.kind !== 'join') return null;
    const accountId = known ?? uuidv7();
    if (known === null) {
      await insertAccount(tx, { accountId, login: null, password: null }, now);
      await insertOutsideIdentity(tx, issuer, subject, accountId);
    }
    await putPerson(tx, { personId: accountId, name: found.name, roles: found.roles }, now);
    await endInvitation(tx, found.invitationId, now);
    await audit(tx, now, found.name, 'joined', `${found.name} has joined as ${found.roles.join(', ')}, by sign-on`);
    return accountId;
  });
}
