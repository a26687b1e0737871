import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import type { LiveMessage } from '@rouse/core/contract';
import { WebSocket, WebSocketServer } from 'ws';

/** a page that cannot keep up is sent no more frames until it has caught up */
const MAX_FRAMES_QUEUED_BYTES = 512 * 1024;
/** from so many followers on frames wait a moment, so that each of them is not a message of its own */
const MANY_FOLLOWERS = 32;
const TOGETHER_MS = 40;
/** and is let go when it does not read at all: it connects again and gets what it missed */
const MAX_QUEUED_BYTES = 4 * 1024 * 1024;

/** A page that may follow a run. */
export interface Follower {
  sessionId: string;
  run: string;
  /** the first message; null for a run that is not live */
  greet: () => LiveMessage | null;
}

/** The pages that follow runs, each over one WebSocket at `/live?run=ID`. */
export class Pages {
  private readonly wss = new WebSocketServer({ noServer: true, perMessageDeflate: false, maxPayload: 4096 });
  private readonly followers = new Map<string, Set<WebSocket>>();
  private readonly sessions = new Map<WebSocket, string>();
  /** frames of this turn that are not sent yet, a list a run */
  private readonly unsent = new Map<string, { numbers: Float64Array; length: number }>();

  /** The sessions of those who are connected. */
  get sessionIds(): string[] {
    return [...new Set(this.sessions.values())];
  }

  /** A session is over: what it follows ends. */
  endSession(sessionId: string): void {
    for (const [ws, session] of this.sessions) if (session === sessionId) ws.close(4401, 'signed out');
  }

  /** Takes a page in. @returns false for a run that is not live */
  take({ sessionId, run, greet }: Follower, request: IncomingMessage, socket: Duplex, head: Buffer): boolean {
    const hello = greet();
    if (!hello) return false;
    this.wss.handleUpgrade(request, socket, head, (ws) => {
      this.sessions.set(ws, sessionId);
      ws.on('close', () => this.sessions.delete(ws));
      this.follow(ws, run, greet() ?? hello);
    });
    return true;
  }

  /** The run is not watched here any more: its pages connect again, and find who watches it. */
  leave(run: string): void {
    for (const ws of this.followers.get(run) ?? []) ws.close(4410, 'watched elsewhere');
  }

  send(run: string, message: LiveMessage): void {
    const set = this.followers.get(run);
    if (!set?.size) return;
    this.flush(run);
    const text = JSON.stringify(message);
    for (const ws of set) {
      if (ws.readyState !== WebSocket.OPEN) continue;
      if (ws.bufferedAmount > MAX_QUEUED_BYTES) ws.terminate();
      else ws.send(text);
    }
  }

  /** Whether anybody follows a run. */
  isFollowed(run: string): boolean {
    return this.followers.has(run);
  }

  /** Whether so many follow that what is only shown may come less often. */
  get areMany(): boolean {
    return this.sessions.size >= MANY_FOLLOWERS;
  }

  /** Frames that come in one turn travel together, at its end: a hurried aircraft has many. */
  sendFrame(run: string, frame: Float64Array): void {
    if (!this.followers.get(run)?.size) return;
    let batch = this.unsent.get(run);
    if (!batch) this.unsent.set(run, (batch = { numbers: new Float64Array(2 * frame.length), length: 0 }));
    if (batch.length + frame.length > batch.numbers.length) {
      const wider = new Float64Array(2 * (batch.length + frame.length));
      wider.set(batch.numbers);
      batch.numbers = wider;
    }
    batch.numbers.set(frame, batch.length);
    batch.length += frame.length;
    if (batch.length === frame.length) {
      if (!this.areMany) setImmediate(() => this.flush(run));
      else setTimeout(() => this.flush(run), TOGETHER_MS);
    }
  }

  private flush(run: string): void {
    const batch = this.unsent.get(run);
    if (!batch?.length) return;
    const bytes = Buffer.from(new Uint8Array(batch.numbers.buffer, 0, 8 * batch.length));
    batch.length = 0;
    for (const ws of this.followers.get(run) ?? [])
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
      if (set.size > 0) return;
      this.followers.delete(run);
      this.unsent.delete(run);
    });
    ws.send(JSON.stringify(hello));
  }
}
