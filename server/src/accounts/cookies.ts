import type { IncomingHttpHeaders } from 'node:http';
import { parseCookie, stringifySetCookie } from 'cookie';
import type { Response } from 'express';

const DAY_S = 86_400;

/** What a browser keeps for us: each a random token, none of them readable by a page. */
export type CookieName = 'session' | 'flow' | 'tablet';

const LASTS_S: Readonly<Record<CookieName, number>> = { session: 30 * DAY_S, flow: 600, tablet: 365 * DAY_S };

/** Cookies of one origin. Over TLS they are bound to the host; on a machine without it, several servers keep theirs apart by port, and those that share a database share them. */
export class Cookies {
  private readonly secure: boolean;
  private readonly prefix: string;

  constructor(origin: URL, shared: boolean) {
    this.secure = origin.protocol === 'https:';
    this.prefix = this.secure ? '__Host-rouse-' : `rouse-${shared ? 'shared' : origin.port || '80'}-`;
  }

  read(headers: IncomingHttpHeaders, name: CookieName): string | null {
    return parseCookie(headers.cookie ?? '')[this.prefix + name] ?? null;
  }

  set(res: Response, name: CookieName, token: string): void {
    this.write(res, name, token, LASTS_S[name]);
  }

  clear(res: Response, name: CookieName): void {
    this.write(res, name, '', 0);
  }

  private write(res: Response, name: CookieName, token: string, maxAge: number): void {
    // the way back from an identity provider comes from another site, and needs its flow
    const sameSite = name === 'flow' ? 'lax' : 'strict';
    res.append(
      'Set-Cookie',
      stringifySetCookie(this.prefix + name, token, {
        httpOnly: true,
        secure: this.secure,
        sameSite,
        path: '/',
        maxAge,
      }),
    );
  }
}
