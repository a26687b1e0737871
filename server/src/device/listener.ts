import dgram from 'node:dgram';
import net from 'node:net';
import { SOURCE_LOST_AFTER_S } from '@rouse/core/watch';
import { readLines } from './lines.ts';

export interface LineSink {
  connected: boolean;
  line(text: string): void;
  /** another unit speaks while the first is heard; it is not listened to */
  secondUnit(from: string): void;
}

export interface UnitListener {
  port: number;
  close(): void;
}

/** a unit that has been silent for longer has lost its place to whoever speaks next */
const HOLDS_FOR_MS = 2 * 1000 * SOURCE_LOST_AFTER_S;
const LONGEST_DATAGRAM_LINES = 64;

/** Who has the line: one unit at a time, by its connection or by the address of its datagrams. */
class Speaker {
  private who: string | null = null;
  private heardAt_ms = -Infinity;
  private readonly sink: LineSink;

  constructor(sink: LineSink) {
    this.sink = sink;
  }

  /** @returns whether this one has the line, or takes it from one that has fallen silent */
  has(who: string): boolean {
    const now_ms = performance.now();
    if (who !== this.who && this.who !== null && now_ms - this.heardAt_ms < HOLDS_FOR_MS) {
      this.sink.secondUnit(who);
      return false;
    }
    this.who = who;
    this.sink.connected = true;
    return true;
  }

  heard(): void {
    this.heardAt_ms = performance.now();
  }

  gone(who: string): void {
    if (this.who !== who) return;
    this.who = null;
    this.sink.connected = false;
  }
}

/**
 * Listens on loopback for one engine data unit that speaks lines over TCP or UDP, on the same port. Who speaks first is
 * the unit until it falls silent; a second one is refused, in words where it can read them.
 */
export async function listenForUnit(port: number, sink: LineSink): Promise<UnitListener> {
  const speaker = new Speaker(sink);
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
      if (!speaker.has(who)) {
        socket.end('another unit speaks on this line; this one is not listened to\n');
        return;
      }
      speaker.heard();
      sink.line(line);
    });
  });
  server.maxConnections = 8;
  await listening(server, () => server.listen(port, '127.0.0.1'));
  const { port: bound } = server.address() as net.AddressInfo;
  const datagrams = dgram.createSocket('udp4');
  datagrams.on('message', (message, { address, port: from }) => {
    if (!speaker.has(`datagrams of ${address}:${from}`)) return;
    speaker.heard();
    for (const line of message.toString('utf8').split('\n', LONGEST_DATAGRAM_LINES))
      if (line.trim()) sink.line(line.trimEnd());
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

function listening(
  on: { once(event: 'error', f: (e: Error) => void): unknown; once(event: 'listening', f: () => void): unknown },
  begin: () => void,
): Promise<void> {
  return new Promise((resolve, reject) => {
    on.once('error', reject);
    on.once('listening', resolve);
    begin();
  });
}
