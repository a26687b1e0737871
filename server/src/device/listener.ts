import dgram from 'node:dgram';
import net from 'node:net';
import { readLines } from './lines.ts';

export interface LineSink {
  connected: boolean;
  line(text: string): void;
}

export interface UnitListener {
  port: number;
  close(): void;
}

/** Listens on loopback for one engine data unit that speaks lines over TCP or UDP, on the same port. The newest connection is the unit. */
export async function listenForUnit(port: number, sink: LineSink): Promise<UnitListener> {
  let current: net.Socket | null = null;
  const server = net.createServer({ noDelay: true }, (socket) => {
    current?.destroy();
    current = socket;
    sink.connected = true;
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      if (current !== socket) return;
      current = null;
      sink.connected = false;
    });
    readLines(socket, (line) => {
      if (current === socket) sink.line(line);
    });
  });
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  const { port: bound } = server.address() as net.AddressInfo;
  const datagrams = dgram.createSocket('udp4');
  datagrams.on('message', (message) => {
    for (const line of message.toString('utf8').split('\n')) if (line.trim()) sink.line(line.trimEnd());
  });
  await new Promise<void>((resolve, reject) => {
    datagrams.once('error', reject);
    datagrams.bind(bound, '127.0.0.1', resolve);
  });
  datagrams.on('error', () => undefined); // a datagram that could not be taken is a line lost
  return {
    port: bound,
    close() {
      server.close();
      datagrams.close();
    },
  };
}
