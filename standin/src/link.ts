import net from 'node:net';

const RETRY_MS = 400;
/** a reader that does not read must not fill the memory of the unit */
const MAX_QUEUED_BYTES = 256 * 1024;

/** The unit's line to whoever listens: it connects, and connects again, for ever. */
export class Link {
  private socket: net.Socket | null = null;
  private retry: NodeJS.Timeout | undefined;
  private closed = false;
  private readonly host: string;
  private readonly port: number;

  constructor(host: string, port: number) {
    this.host = host;
    this.port = port;
    this.connect();
  }

  send(line: string): void {
    const socket = this.socket;
    if (socket?.writable && socket.writableLength < MAX_QUEUED_BYTES) socket.write(line);
  }

  close(): void {
    this.closed = true;
    clearTimeout(this.retry);
    this.socket?.destroy();
  }

  private connect(): void {
    const socket = net.connect({ host: this.host, port: this.port, noDelay: true });
    socket.on('connect', () => (this.socket = socket));
    socket.on('error', () => undefined); // 'close' follows and tries again
    socket.on('close', () => {
      this.socket = null;
      if (!this.closed) this.retry = setTimeout(() => this.connect(), RETRY_MS);
    });
  }
}
