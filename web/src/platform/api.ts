import type { ApiError } from '@rouse/core/contract';

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

async function call(path: string, init?: RequestInit): Promise<Response> {
  let response: Response;
  try {
    response = await fetch(`/api${path}`, init);
  } catch {
    throw new ApiRefusal(
      'unreachable',
      'The server cannot be reached.',
      'Start Rouse again with npm start; what was entered is kept on this page.',
    );
  }
  if (response.ok) return response;
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

async function sendJson<T>(method: 'POST' | 'PUT', path: string, body: unknown): Promise<T> {
  return (
    await call(path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) })
  ).json() as Promise<T>;
}

/** @throws ApiRefusal */
export const postJson = <T>(path: string, body: unknown): Promise<T> => sendJson('POST', path, body);

/** @throws ApiRefusal */
export const putJson = <T>(path: string, body: unknown): Promise<T> => sendJson('PUT', path, body);
