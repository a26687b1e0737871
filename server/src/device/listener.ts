import dgram from 'node:dgram';
import net from 'node:net';
import { readLines } from './read-lines.ts';
import { type LineSink, speakerOf } from './speaker.ts';

export interface UnitListener {
  port: number;
  close(): void;
}

const LONGEST_DATAGRAM_LINES = 64;
export const SECOND_UNIT = 'another unit speaks on this line; this one is not listened to\n';

/**
 * Listens on loopback, and only there, for one engine data unit of this machine that says no token: it speaks lines over
 * TCP or UDP, on the same port. Who speaks first is the unit until it falls silent; a second one is refused, in words
 * where it can read them.
 */
export async function listenForUnit(port: number, sink: LineSink): Promise<UnitListener> {
  const speaker = speakerOf(sink);
  const sockets = new Set<net.Socket>();
  let count = 0;
  const server = net.createServer({ noDelay: true }, (socket) => {
    const who = `connection ${++count}`;
    sockets.add(socket);
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      sockets.delete(socket);
      speaker.gone(who);
    });
    readLines(socket, (line) => {
      if (speaker.has(who)) speaker.line(line);
      else socket.end(SECOND_UNIT);
    });
  });
  server.maxConnections = 8;
  await listening(server, () => server.listen(port, '127.0.0.1'));
  const { port: bound } = server.address() as net.AddressInfo;
  const datagrams = dgram.createSocket('udp4');
  datagrams.on('message', (message, { address, port: from }) => {
    if (speaker.has(`datagrams of ${address}:${from}`)) linesOf(message).forEach((line) => speaker.line(line));
  });
  await listening(datagrams, () => datagrams.bind(bound, '127.0.0.1'));
  datagrams.on('error', () => undefined); // a datagram that could not be taken is a line lost
  server.on('error', () => undefined);
  return {
    port: bound,
    close() {
      server.close();
      for (const socket of sockets) socket.destroy();
      datagrams.close();
    },
  };
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
