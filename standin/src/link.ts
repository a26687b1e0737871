import dgram from 'node:dgram';
import net from 'node:net';

const RETRY_MS = 400;
/** a reader that does not read must not fill the memory of the unit */
const MAX_QUEUED_BYTES = 256 * 1024;

/** The unit's line to whoever listens: over TCP it connects, and connects again, for ever; over UDP it just sends. */
export class Link {
  transport: 'tcp' | 'udp' = 'tcp';
  private socket: net.Socket | null = null;
  private readonly datagrams = dgram.createSocket('udp4').unref();
  private retry: NodeJS.Timeout | undefined;
  private closed = false;
  private readonly host: string;
  private readonly port: number;

  constructor(host: string, port: number) {
    this.host = host;
    this.port = port;
    this.datagrams.on('error', () => undefined); // nobody listens: a datagram is lost, as on any line
    this.connect();
  }

  send(line: string): void {
    if (this.closed) return;
    if (this.transport === 'udp') {
      this.datagrams.send(line, this.port, this.host);
      return;
    }
    const { socket } = this;
    if (!socket?.writable || socket.writableLength >= MAX_QUEUED_BYTES) return;
    // the lines of one turn go out together: a hurried aircraft has many
    if (socket.writableCorked === 0) {
      socket.cork();
      process.nextTick(() => socket.uncork());
    }
    socket.write(line);
  }

  /** Lays the line anew over the other transport. */
  use(transport: 'tcp' | 'udp'): void {
    if (transport === this.transport) return;
    this.transport = transport;
    clearTimeout(this.retry);
    if (transport === 'udp') this.socket?.destroy();
    else this.connect();
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.retry);
    this.socket?.destroy();
    this.datagrams.close();
  }

  private connect(): void {
    const socket = net.connect({ host: this.host, port: this.port, noDelay: true });
    socket.on('connect', () => {
      // with nobody there a connection may come back to itself, and would keep the port from whoever listens next
      if (socket.localPort === socket.remotePort && socket.localAddress === socket.remoteAddress) socket.destroy();
      else this.socket = socket;
    });
    socket.on('error', () => undefined); // 'close' follows and tries again
    socket.on('close', () => {
      this.socket = null;
      if (!this.closed && this.transport === 'tcp') this.retry = setTimeout(() => this.connect(), RETRY_MS);
    });
  }
}
