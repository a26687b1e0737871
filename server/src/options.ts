import type { Logger } from 'pino';
import type { Clock } from './clock.ts';

export interface ProgramOptions {
  /** a prepared database, by the server's own role */
  databaseUrl: string;
  /** folder on the local disk for what is kept before it is stored */
  outboxDir: string;
  webDir: string | null;
  /** the checkout: types that come with it, and what compiles others */
  root: string;
  port: number;
  /** the address to listen at: loopback unless somebody says otherwise */
  listen: string;
  /** the address that browsers open, where it is not this machine's own */
  origin: URL | null;
  /** 32 bytes that seal what the database keeps */
  key: Buffer;
  /** so many requests of one session in ten seconds, and no more */
  requestsIn10s: number;
  /** whether other servers work with the same database; they reach this one at `host` */
  several: boolean;
  host: string;
  /** where units with a token speak: on loopback unless somebody says otherwise */
  lines: { listen: string; port: number };
  /** tails of the demo that a line of this machine belongs to, each with its port */
  devices: Readonly<Record<string, number>>;
  control: { port: number; token: string };
  clock: Clock;
  log: Logger;
  /** tells whoever started the program what it does */
  say: (message: string) => void;
  /** another server has taken the database over: this one must end */
  giveUp: (error: Error) => void;
}
