import type { SessionMessage } from '@rouse/core/contract';
import { ACKNOWLEDGEMENT, type Role } from '@rouse/core/people';

/** an operator beside the demo's, as its first administrator sets it up */
export const OWN = {
  operator: 'Alder Flying School',
  site: { name: 'Alder', pad: 'pad 1', elev_ft: 320, variation_E_deg: 1, lat_deg: null, lon_deg: null, opens: null, closes: null }, // oxfmt-ignore
  person: { name: 'Ida Founder', login: 'ida', password: 'twelve geese in a row' },
  aircraft: { type: 'S7', tail: 'AL-001', basic: null },
};
export const PASSWORD = 'a long enough phrase';

export interface Answered {
  status: number;
  body: unknown;
  text: string;
  /** the address that was asked for, which an answer may repeat */
  asked: string;
  headers: Headers;
}

/** A browser: it keeps its cookies, and says whatever a test wants to say. */
export class Guest {
  readonly base: string;
  private readonly jar = new Map<string, string>();

  constructor(base: string) {
    this.base = base;
  }

  get cookie(): string {
    return [...this.jar].map(([name, value]) => `${name}=${value}`).join('; ');
  }

  /** Another browser of the same person, without their cookies. */
  elsewhere(): Guest {
    return new Guest(this.base);
  }

  async send(method: string, place: string, body?: unknown): Promise<Answered> {
    const asked = `/api${place}`;
    const response = await fetch(this.base + asked, {
      method,
      redirect: 'manual',
      headers: { cookie: this.cookie, 'user-agent': 'a browser of the tests', ...(body !== undefined && { 'content-type': 'application/json' }) }, // oxfmt-ignore
      ...(body !== undefined && method !== 'GET' && { body: JSON.stringify(body) }),
    });
    for (const set of response.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(set)!;
      if (value) this.jar.set(name!, value);
      else this.jar.delete(name!);
    }
    const text = await response.text();
    const isJson = response.headers.get('content-type')?.includes('json') ?? false;
    return { status: response.status, body: isJson ? JSON.parse(text) : null, text, asked, headers: response.headers };
  }

  /** @throws Error for a refusal */
  async get<T>(place: string): Promise<T> {
    const { status, body, text } = await this.send('GET', place);
    if (status !== 200) throw new Error(`${place}: ${status} ${text}`);
    return body as T;
  }

  session(): Promise<SessionMessage> {
    return this.get('/session');
  }

  async signIn(login: string, password = PASSWORD): Promise<Answered> {
    return this.send('POST', '/session/password', { login, password });
  }

  /** Invites somebody, who comes with a browser of their own and joins by name and password. */
  async invite(name: string, roles: readonly Role[]): Promise<Guest> {
    const { body } = await this.send('POST', '/invitations', { name, roles });
    const token = (body as { link: string }).link.split('/join/')[1]!;
    const guest = this.elsewhere();
    const login = name.toLowerCase().replaceAll(' ', '.');
    const joined = await guest.send('POST', `/invitations/${token}`, { with: 'password', login, password: PASSWORD });
    if (joined.status !== 201) throw new Error(joined.text);
    await guest.send('POST', '/acknowledgements', { version: ACKNOWLEDGEMENT.version });
    return guest;
  }
}

/** Sets an operator up beside the demo. @returns its first administrator */
export async function foundOwn(base: string): Promise<Guest> {
  const founder = new Guest(base);
  const { status, text } = await founder.send('POST', '/found', OWN);
  if (status !== 201) throw new Error(text);
  await founder.send('POST', '/acknowledgements', { version: ACKNOWLEDGEMENT.version });
  return founder;
}
