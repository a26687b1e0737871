import dgram from 'node:dgram';
import net from 'node:net';
import { type Duplex, pipeline } from 'node:stream';
import { readLines } from './read-lines.ts';
import { type LineOwner, speakerOf } from './speaker.ts';

export interface UnitListener {
  port: number;
  /** the aircraft has changed hands: its units connect again, and are heard by whoever watches it */
  hangUp(): void;
  close(): void;
}

const LONGEST_DATAGRAM_LINES = 64;
export const SECOND_UNIT = 'another unit speaks on this line; this one is not listened to\n';

/**
 * Listens on loopback, and only there, for one engine data unit of this machine that says no token: it speaks lines over
 * TCP or UDP, on the same port. Who speaks first is the unit until it falls silent; a second one is refused, in words
 * where it can read them. What belongs to another server is passed on to it as it comes.
 */
export async function listenForUnit(port: number, owner: LineOwner): Promise<UnitListener> {
  const sockets = new Set<net.Socket>();
  let count = 0;
  const server = net.createServer({ noDelay: true }, (socket) => {
    const who = `connection ${++count}`;
    sockets.add(socket);
    socket.on('error', () => socket.destroy());
    socket.on('close', () => sockets.delete(socket));
    const toOwner = async (): Promise<void> => {
      const found = await owner.soon();
      if (found === null || socket.destroyed) return void socket.destroy();
      if ('port' in found) return joinConnections(socket, found.connect());
      const speaker = speakerOf(found);
      socket.on('close', () => speaker.gone(who));
      return readLines(socket, (line) => {
        if (speaker.has(who)) speaker.line(line);
        else socket.end(SECOND_UNIT);
      });
    };
    // whose it is cannot be said now: the unit connects again
    toOwner().catch(() => socket.destroy());
  });
  server.maxConnections = 8;
  await listening(server, () => server.listen(port, '127.0.0.1'));
  const { port: bound } = server.address() as net.AddressInfo;
  const datagrams = dgram.createSocket('udp4');
  datagrams.on('message', (message, { address, port: from }) => {
    const found = owner.now();
    if (found === null) return;
    if ('port' in found) return datagrams.send(message, found.port, found.host);
    const speaker = speakerOf(found);
    if (speaker.has(`datagrams of ${address}:${from}`)) linesOf(message).forEach((line) => speaker.line(line));
  });
  await listening(datagrams, () => datagrams.bind(bound, '127.0.0.1'));
  datagrams.on('error', () => undefined); // a datagram that could not be taken is a line lost
  server.on('error', () => undefined);
  const hangUp = (): void => {
    for (const socket of sockets) socket.destroy();
  };
  return {
    port: bound,
    hangUp,
    close() {
      server.close();
      hangUp();
      datagrams.close();
    },
  };
}

/** Two connections become one: what one says the other hears, and they end together. */
export function joinConnections(a: Duplex, b: Duplex): void {
  pipeline(a, b, a, () => {
    a.destroy();
    b.destroy();
  });
}

/** The lines of a datagram, as many as it may have. */
export const linesOf = (message: Buffer): string[] =>
  message
    .toString('utf8')
    .split('\n', LONGEST_DATAGRAM_LINES)
    .flatMap((line) => (line.trim() ? [line.trimEnd()] : []));

export function listening(
  on: { once(event: 'error', f: (e: Error) => void): unknown; once(event: 'listening', f: () => void): unknown },
  begin: () => void,
): Promise<void> {
  return new Promise((resolve, reject) => {
    on.once('error', reject);
    on.once('listening', resolve);
    begin();
  });
}
