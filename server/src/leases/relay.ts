import http, { type IncomingMessage } from 'node:http';
import { type Duplex, pipeline } from 'node:stream';
import type { Request, RequestHandler, Response } from 'express';
import type { Accounts } from '../accounts/accounts.ts';
import type { Doors } from '../db/leases.ts';
import { joinConnections } from '../device/listener.ts';
import { Refusal } from '../errors.ts';
import type { Leases } from './leases.ts';

/** what was passed on once is not passed on again: two servers that know different owners would play ball */
const RELAYED = 'x-rouse-relayed';

const changing = (): Refusal =>
  new Refusal('changing-hands', 'The server that has this fleet is not reached; another one takes it over.');

/** Who works in an operator whose fleet another server has is answered by that server. */
export function relayToOwner(leases: Leases, accounts: Accounts): RequestHandler {
  return async (req, res, next) => {
    const operatorId = (await accounts.sessions.of(req.headers))?.member?.operatorId;
    if (operatorId === undefined) return next();
    const owner = await leases.whoHas(operatorId);
    if (owner === 'here') return next();
    if (owner === null || req.headers[RELAYED] !== undefined) throw changing();
    await relayRequest(req, res, owner, (onward) => leases.endWithTenure(operatorId, onward));
  };
}

function relayRequest(
  req: Request,
  res: Response,
  { host, port }: Doors,
  made: (onward: http.ClientRequest) => void,
): Promise<void> {
  return new Promise((resolve, reject) => {
    const onward = http.request(
      { host, port, method: req.method, path: req.originalUrl, headers: { ...req.headers, [RELAYED]: '1' } },
      (answer) => {
        res.writeHead(answer.statusCode!, answer.headers);
        pipeline(answer, res, () => resolve());
      },
    );
    made(onward);
    onward.on('error', () => (res.headersSent ? res.destroy() : reject(changing())));
    res.on('close', () => onward.destroy());
    req.pipe(onward);
  });
}

/** Whether another server has passed it on. */
export const isRelayed = (request: IncomingMessage): boolean => request.headers[RELAYED] !== undefined;

/** The same for a connection that is upgraded. */
export function relayUpgrade(onward: Duplex, request: IncomingMessage, socket: Duplex, head: Buffer): void {
  const lines = [`${request.method} ${request.url} HTTP/1.1`];
  for (let i = 0; i < request.rawHeaders.length; i += 2)
    lines.push(`${request.rawHeaders[i]}: ${request.rawHeaders[i + 1]}`);
  onward.write(`${[...lines, `${RELAYED}: 1`].join('\r\n')}\r\n\r\n`);
  onward.write(head);
  joinConnections(socket, onward);
}
