import type { IncomingMessage, Server } from 'node:http';
import type { Duplex } from 'node:stream';

/** What takes a connection that is upgraded. @returns false when it is not for it */
export type Upgrade = (address: URL, request: IncomingMessage, socket: Duplex, head: Buffer) => Promise<boolean>;

/** Hands each upgrade to whoever its address belongs to; any other is answered and let go. */
export function attachUpgrades(server: Server, byPath: Readonly<Record<string, Upgrade>>): void {
  server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
    // whoever asked may be gone before the answer
    socket.on('error', () => socket.destroy());
    const address = URL.canParse(request.url ?? '', 'http://localhost') ? new URL(request.url ?? '', 'http://localhost') : null; // oxfmt-ignore
    const upgrade = address && byPath[address.pathname];
    const taken = upgrade ? upgrade(address, request, socket, head) : Promise.resolve(false);
    taken
      .then((done) => {
        if (!done) socket.end('HTTP/1.1 404 Not Found\r\nConnection: close\r\n\r\n');
      })
      .catch(() => socket.destroy());
  });
}
