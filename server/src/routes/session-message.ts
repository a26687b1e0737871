import type { SessionMessage } from '@rouse/core/contract';
import { ACKNOWLEDGEMENT, ROLES } from '@rouse/core/people';
import type { Request } from 'express';
import type { Session } from '../accounts/sessions.ts';
import { tabletOf } from '../accounts/tablet.ts';
import { listMemberships } from '../db/accounts.ts';
import { findIdentityProvider } from '../db/identity-providers.ts';
import { listOperators } from '../db/operators.ts';
import { acknowledgedVersion, listPeople } from '../db/people.ts';
import { asOperator, isDatabaseAway } from '../db/pool.ts';
import { listPinHolders } from '../db/tablets.ts';
import type { Services } from '../services.ts';

const NO_SIGN_IN_WAYS = { empty: false, demo: [], signOn: [], tablet: null, types: [] };

/** Who is signed in, and where they may work. While the database is away: as far as it is known. */
export async function saySession(services: Services, req: Request, session: Session): Promise<SessionMessage> {
  const { pool } = services;
  const { member, accountId, way } = session;
  let operators = member ? [{ operatorId: member.operatorId, name: member.operator }] : [];
  // who works while the database is away has worked before
  let acknowledged = true;
  let tablet: SessionMessage['tablet'] = null;
  try {
    tablet = await sayTablet(services, req);
    operators = (await listMemberships(pool, accountId)).map((m) => ({ operatorId: m.operatorId, name: m.operator }));
    if (member)
      acknowledged =
        (await asOperator(pool, member.operatorId, (tx) => acknowledgedVersion(tx, accountId))) >=
        ACKNOWLEDGEMENT.version;
  } catch (error) {
    if (!isDatabaseAway(error)) throw error;
  }
  return {
    ...NO_SIGN_IN_WAYS,
    tablet,
    person: {
      personId: accountId,
      way,
      operators,
      member: member && {
        operatorId: member.operatorId,
        operator: member.operator,
        demo: member.demo,
        name: member.name,
        roles: member.roles,
        unproven: member.unproven,
        acknowledged,
      },
    },
  };
}

/** Who can take this browser, where it is a tablet of the crew room. */
async function sayTablet({ pool, accounts }: Services, req: Request): Promise<SessionMessage['tablet']> {
  const tablet = await tabletOf(pool, accounts.cookies, req);
  if (!tablet) return null;
  return { label: tablet.label, people: await asOperator(pool, tablet.operatorId, listPinHolders) };
}

/** By which doors somebody can come in on this browser. */
export async function saySignInWays(services: Services, req: Request): Promise<SessionMessage> {
  const { pool, types } = services;
  const operators = await listOperators(pool);
  const empty = operators.every((o) => o.demo);
  const signOn: SessionMessage['signOn'] = [];
  for (const { operatorId } of operators) {
    const provider = await asOperator(pool, operatorId, findIdentityProvider);
    if (provider) signOn.push({ operatorId, label: provider.label });
  }
  return {
    person: null,
    empty,
    demo: (await demoPeople(services))?.people ?? [],
    signOn,
    tablet: await sayTablet(services, req),
    types: empty ? types.shipped().map((t) => ({ id: t.id, name: t.name, basic: t.loading.basic })) : [],
  };
}

/** The made-up people of the demo, each signed in by one press; null where there is no demo. */
export async function demoPeople({
  pool,
}: Services): Promise<{ operatorId: string; people: SessionMessage['demo'] } | null> {
  const demo = (await listOperators(pool)).find((o) => o.demo);
  if (!demo) return null;
  const people = await asOperator(pool, demo.operatorId, listPeople);
  return {
    operatorId: demo.operatorId,
    people: people
      .filter((p) => p.leftAt === null)
      .map(({ personId, name, roles }) => ({ personId, name, roles }))
      .toSorted((a, b) => ROLES.indexOf(a.roles[0]!) - ROLES.indexOf(b.roles[0]!)),
  };
}
