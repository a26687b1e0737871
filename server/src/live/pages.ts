import type { IncomingMessage, Server } from 'node:http';
import type { Duplex } from 'node:stream';
import type { LiveMessage } from '@rouse/core/contract';
import { WebSocket, WebSocketServer } from 'ws';
import { isOwnOrigin } from '../origin.ts';

/** a page that cannot keep up is sent no more frames until it has caught up */
const MAX_FRAMES_QUEUED_BYTES = 512 * 1024;
/** and is let go when it does not read at all: it connects again and gets what it missed */
const MAX_QUEUED_BYTES = 4 * 1024 * 1024;

/** The pages that follow runs, each over one WebSocket at `/live?run=ID`. */
export class Pages {
  private readonly wss = new WebSocketServer({ noServer: true, perMessageDeflate: false, maxPayload: 4096 });
  private readonly followers = new Map<string, Set<WebSocket>>();

  /** @param greet the first message for a page that follows this run, or null when the run is not live */
  attach(server: Server, greet: (run: string) => LiveMessage | null): void {
    server.on('upgrade', (request: IncomingMessage, socket: Duplex, head: Buffer) => {
      // whoever asked may be gone before the answer
      socket.on('error', () => socket.destroy());
      const run = runAsked(request);
      const hello = run !== null && isOwnOrigin(request.headers) ? greet(run) : null;
      if (!hello || run === null) {
        socket.end('HTTP/1.1 404 Not Found\r\nConnection: close\r\n\r\n');
        return;
      }
      this.wss.handleUpgrade(request, socket, head, (ws) => this.follow(ws, run, greet(run) ?? hello));
    });
  }

  send(run: string, message: LiveMessage): void {
    const set = this.followers.get(run);
    if (!set?.size) return;
    const text = JSON.stringify(message);
    for (const ws of set) {
      if (ws.readyState !== WebSocket.OPEN) continue;
      if (ws.bufferedAmount > MAX_QUEUED_BYTES) ws.terminate();
      else ws.send(text);
    }
  }

  sendFrame(run: string, frame: Float64Array): void {
    const set = this.followers.get(run);
    if (!set?.size) return;
    // ws may keep the bytes until they are written: each frame travels in bytes of its own
    const bytes = new Uint8Array(frame.buffer.slice(0));
    for (const ws of set)
      if (ws.readyState === WebSocket.OPEN && ws.bufferedAmount < MAX_FRAMES_QUEUED_BYTES) ws.send(bytes);
  }

  close(): void {
    for (const ws of this.wss.clients) ws.terminate();
    this.wss.close();
  }

  private follow(ws: WebSocket, run: string, hello: LiveMessage): void {
    ws.on('error', () => ws.terminate());
    const set = this.followers.get(run) ?? new Set();
    this.followers.set(run, set.add(ws));
    ws.on('close', () => {
      set.delete(ws);
      if (set.size === 0) this.followers.delete(run);
    });
    ws.send(JSON.stringify(hello));
  }
}

/** The run that an upgrade asks for, null for any other address, and for one that is none. */
function runAsked({ url }: IncomingMessage): string | null {
  const found = URL.canParse(url ?? '', 'http://localhost') ? new URL(url ?? '', 'http://localhost') : null;
  return found?.pathname === '/live' ? found.searchParams.get('run') : null;
}
