export { ACKNOWLEDGEMENT, PREVAILS } from './acknowledgement.ts';
export { may, mayFly, type Right, RIGHTS, type Role, ROLES, withoutProof } from './rights.ts';
export { type Need, type Route, ROUTES } from './routes.ts';
