import type { Socket } from 'node:net';
import readline from 'node:readline';

/** Calls `onLine` for each line of a socket. The socket's own error handling decides what an error means. */
export function readLines(socket: Socket, onLine: (line: string) => void): void {
  // readline passes the socket's errors on; unheard, one would end the process
  readline
    .createInterface({ input: socket })
    .on('line', onLine)
    .on('error', () => undefined);
}
