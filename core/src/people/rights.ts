/** What somebody is for an operator; a person may be several. */
export const ROLES = ['pilot', 'instructor', 'engineer', 'administrator', 'reader'] as const;
export type Role = (typeof ROLES)[number];

/** What the acts of Rouse ask for. docs/rights.md lists which role has which. */
export const RIGHTS = ['read', 'run', 'drill', 'oversee', 'release', 'draft', 'administer'] as const;
export type Right = (typeof RIGHTS)[number];

const MAY: Readonly<Record<Right, readonly Role[]>> = {
  read: ROLES,
  run: ['pilot', 'instructor', 'engineer'],
  drill: ['pilot', 'instructor', 'engineer'],
  oversee: ['instructor', 'administrator'],
  release: ['engineer'],
  draft: ['pilot', 'instructor', 'engineer', 'administrator'],
  administer: ['administrator'],
};

/** Roles whose acts are asked for a second proof where the operator wants it. */
const PROVEN: readonly Role[] = ['engineer', 'administrator'];

/** Whether one of these roles has a right. */
export const may = (roles: readonly Role[], right: Right): boolean => roles.some((role) => MAY[right].includes(role));

/** Whether the engine may be taken into the air: an engineer runs on the ground. */
export const mayFly = (roles: readonly Role[]): boolean => roles.some((r) => r === 'pilot' || r === 'instructor');

/** The roles that somebody acts in who has shown no second proof, where the operator asks for one. */
export const withoutProof = (roles: readonly Role[]): Role[] => roles.filter((role) => !PROVEN.includes(role));
