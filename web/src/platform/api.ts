import type { ApiError } from '@rouse/core/contract';
import { KEPT_AT } from './kept-answers.ts';
import { notReached, reached } from './reach.ts';

/** What the server refused, in its own words, or that it could not be reached. */
export class ApiRefusal extends Error {
  readonly code: string;
  readonly remedy: string;
  readonly details: ApiError['error'] | null;

  constructor(code: string, message: string, remedy: string, details: ApiError['error'] | null = null) {
    super(message);
    this.code = code;
    this.remedy = remedy;
    this.details = details;
  }

  /** The server, its disk or its database is away for a moment: sent again, it may be taken. */
  get isOutage(): boolean {
    return OUTAGES.has(this.code);
  }
}

const OUTAGES = new Set(['unreachable', 'database-away', 'not-kept', 'internal']);

/** Told on the window when the server says that nobody is signed in. */
export const SIGNED_OUT = 'rouse:signed-out';

async function call(path: string, init?: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, init);
  } catch {
    notReached(null);
    throw new ApiRefusal(
      'unreachable',
      'The server cannot be reached.',
      'Start Rouse again with npm start; what was entered is kept on this page.',
    );
  }
  const keptAt = response.headers.get(KEPT_AT);
  if (keptAt !== null) notReached(keptAt);
  // what never changes may come out of the browser itself, and says nothing of the server
  else if (!response.headers.get('cache-control')?.includes('immutable')) reached();
  if (response.ok) return response;
  if (response.status === 401) window.dispatchEvent(new Event(SIGNED_OUT));
  const body = (await response.json().catch(() => null)) as ApiError | null;
  if (!body) throw new ApiRefusal('internal', `The server answered ${response.status}.`, 'Try again.');
  throw new ApiRefusal(body.error.code, body.error.message, body.error.remedy, body.error);
}

/** @throws ApiRefusal */
export async function getJson<T>(path: string): Promise<T> {
  return (await call(path)).json() as Promise<T>;
}

/** @throws ApiRefusal */
export async function getBytes(path: string): Promise<Uint8Array> {
  return new Uint8Array(await (await call(path)).arrayBuffer());
}

async function sendJson<T>(
  method: 'POST' | 'PUT' | 'DELETE',
  path: string,
  body: unknown,
  within_ms?: number,
): Promise<T> {
  const signal = within_ms === undefined ? null : AbortSignal.timeout(within_ms);
  const headers = { 'content-type': 'application/json' };
  return (await call(path, { method, headers, body: JSON.stringify(body), signal })).json() as Promise<T>;
}

/** @param within_ms a server that takes longer counts as not reached @throws ApiRefusal */
export const postJson = <T>(path: string, body: unknown, within_ms?: number): Promise<T> =>
  sendJson('POST', path, body, within_ms);

/** A file that is made of what is sent. @throws ApiRefusal */
export async function postForFile(path: string, body: unknown): Promise<Blob> {
  return (
    await call(path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
  ).blob();
}

/** @throws ApiRefusal */
export async function postFile<T>(path: string, file: Blob, type: string): Promise<T> {
  return (await call(path, { method: 'POST', headers: { 'content-type': type }, body: file })).json() as Promise<T>;
}

/** @throws ApiRefusal */
export const deleteJson = <T>(path: string, body: unknown = {}): Promise<T> => sendJson('DELETE', path, body);

/** @throws ApiRefusal */
export const putJson = <T>(path: string, body: unknown): Promise<T> => sendJson('PUT', path, body);
