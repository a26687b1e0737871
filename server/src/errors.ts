/** Every error that a caller can meet: code, status, and what to do about it. docs/formats.md lists the same table. */
export const ERRORS = {
  'bad-request': { status: 400, remedy: 'Correct the field that is named and send it again.' },
  'not-found': { status: 404, remedy: 'Go back to Today and choose again.' },
  'run-is-open': { status: 409, remedy: 'Continue the open run, or close it first.' },
  'brief-held': { status: 422, remedy: 'Settle what holds it on Brief; a caution needs your reason.' },
  'out-of-order': { status: 409, remedy: 'Read the journal up to the expected number and send the entry again.' },
  'not-this-item': { status: 422, remedy: 'Work the present item, or choose one that can be done meanwhile.' },
  'not-so': { status: 422, remedy: 'Put it right, record a fault, or skip it with a reason.' },
  'not-open': { status: 409, remedy: 'Begin a new run on Today.' },
  'nothing-to-undo': { status: 422, remedy: 'Go back to the item instead.' },
  'no-stand-in': { status: 503, remedy: 'Start the stand-in device, or move the switch in the cockpit.' },
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
