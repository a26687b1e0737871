import net from 'node:net';
import { readLines } from './lines.ts';

export interface LineSink {
  connected: boolean;
  line(text: string): void;
}

/** Listens on loopback for one engine data unit that speaks lines over TCP. The newest connection is the unit. @returns the server, listening */
export function listenForUnit(port: number, sink: LineSink): Promise<net.Server> {
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
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve(server));
  });
}
