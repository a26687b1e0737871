import { isDatabaseAway } from './db/pool.ts';

/** Every error that a caller can meet: code, status, and what to do about it. docs/formats.md lists the same table. */
export const ERRORS = {
  'bad-request': { status: 400, remedy: 'Correct the field that is named and send it again.' },
  'signed-out': { status: 401, remedy: 'Sign in; what you have entered stays on this page.' },
  'not-known': { status: 401, remedy: 'Look at the name and the password again, or ask an administrator for a link.' },
  'no-right': { status: 403, remedy: 'Ask somebody who may, or an administrator for the role.' },
  'sign-on-away': { status: 502, remedy: 'Sign in in another way, or try again in a while.' },
  'too-many-tries': { status: 429, remedy: 'Wait a while and try again, or sign in with a passkey.' },
  'not-found': { status: 404, remedy: 'Go back to Today and choose again.' },
  'run-is-open': { status: 409, remedy: 'Continue the open run, or close it first.' },
  'brief-held': { status: 422, remedy: 'Settle what holds it on Brief; a caution needs your reason.' },
  'out-of-order': { status: 409, remedy: 'Read the journal up to the expected number and send the entry again.' },
  'changed-meanwhile': { status: 409, remedy: 'Read what has changed, and change it again.' },
  'id-used': { status: 409, remedy: 'Send it again with an id of its own.' },
  'not-this-item': { status: 422, remedy: 'Work the present item, or choose one that can be done meanwhile.' },
  'not-so': { status: 422, remedy: 'Put it right, record a fault, or skip it with a reason.' },
  'cannot-say': { status: 422, remedy: 'Look at another start, or ask again when this aircraft has more of them.' },
  'not-open': { status: 409, remedy: 'Brief the next run; notes can still be added to this one.' },
  'nothing-to-undo': { status: 422, remedy: 'Go back to the item instead.' },
  'no-stand-in': { status: 503, remedy: 'Start the stand-in device, or move the switch in the cockpit.' },
  'database-away': {
    status: 503,
    remedy:
      'An open run goes on: the watch, the list and the abort work, and everything is kept on this machine. Try again in a moment.',
  },
  'changing-hands': { status: 503, remedy: 'Another server takes this fleet over; the page asks again by itself.' },
  'not-kept': { status: 503, remedy: 'Make room on the disk of the server; the page sends it again by itself.' },
  'bad-origin': { status: 403, remedy: 'Open Rouse at the address that the start command printed.' },
  internal: { status: 500, remedy: 'Nothing was changed. Try again; the server log has the cause.' },
} as const;
export type ErrorCode = keyof typeof ERRORS;

export class Refusal extends Error {
  readonly code: ErrorCode;
  readonly details: Record<string, unknown>;

  constructor(code: ErrorCode, message: string, details: Record<string, unknown> = {}) {
    super(message);
    this.code = code;
    this.details = details;
  }
}

/** What a caller is told of an error, whatever threw it. */
export function asRefusal(error: unknown): Refusal {
  if (error instanceof Refusal) return error;
  if (isDatabaseAway(error)) return new Refusal('database-away', 'The database cannot be reached, or takes nothing.');
  const { status, code } = (typeof error === 'object' && error !== null ? error : {}) as Record<string, unknown>;
  if (status === 404) return new Refusal('not-found', 'There is no such file.');
  if (Number(status) >= 400 && Number(status) < 500)
    return new Refusal('bad-request', error instanceof Error ? error.message : 'The request cannot be read.');
  // what the database cannot hold: a number out of range, a text with a zero in it
  if (String(code).startsWith('22')) return new Refusal('bad-request', 'A value in the request cannot be stored.');
  return new Refusal('internal', 'Something went wrong on our side.');
}
