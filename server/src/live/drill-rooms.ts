import { randomInt } from 'node:crypto';
import type { IncomingMessage } from 'node:http';
import type { Duplex } from 'node:stream';
import { type DeskCommand, deskCommandSchema, type RoomTold } from '@rouse/core/contract';
import { WebSocket, WebSocketServer } from 'ws';

/** letters and figures that nobody mistakes for another when they are read out */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789';
const CODE_LENGTH = 6;
/** a page that has everything to tell at once */
const MOST_BYTES = 1024 * 1024;
/** an instructor who cannot keep up misses what is in between */
const MOST_QUEUED_BYTES = 1024 * 1024;
/** a room without its learner is kept so long */
const KEPT_MS = 10 * 60_000;

/** Who comes to a room. */
export interface Guest {
  operatorId: string;
  personId: string;
  name: string;
  sessionId: string;
  /** may look on, and lead */
  leads: boolean;
}

interface Room {
  code: string;
  operatorId: string;
  personId: string;
  learner: WebSocket | null;
  name: string;
  desks: Map<WebSocket, string>;
  emptyAt_ms: number;
}

/**
 * Rooms in which an instructor looks on a learner's drill. The drill is flown in the learner's page and goes on whatever
 * becomes of the room: what it tells is passed on, what the instructor does is passed back, and nothing is kept here.
 */
export class DrillRooms {
  private readonly wss = new WebSocketServer({ noServer: true, perMessageDeflate: false, maxPayload: MOST_BYTES });
  private readonly rooms = new Map<string, Room>();
  private readonly sessions = new Map<WebSocket, string>();
  private readonly now: () => number;

  constructor(now: () => number) {
    this.now = now;
  }

  /** A new room. @returns its code */
  open({ operatorId, personId, name }: Pick<Guest, 'operatorId' | 'personId' | 'name'>): string {
    for (const [code, room] of this.rooms)
      if (room.learner === null && this.now() - room.emptyAt_ms > KEPT_MS) this.rooms.delete(code);
    let code: string;
    do code = Array.from({ length: CODE_LENGTH }, () => LETTERS[randomInt(LETTERS.length)]).join('');
    while (this.rooms.has(code));
    this.rooms.set(code, { code, operatorId, personId, learner: null, name, desks: new Map(), emptyAt_ms: this.now() });
    return code;
  }

  /** Lets somebody in: the learner whose room it is, or an instructor of the same operator. @returns false for anybody else */
  admit(guest: Guest, code: string, request: IncomingMessage, socket: Duplex, head: Buffer): boolean {
    const room = this.rooms.get(code);
    if (!room || room.operatorId !== guest.operatorId) return false;
    const learns = room.personId === guest.personId;
    if (!learns && !guest.leads) return false;
    this.wss.handleUpgrade(request, socket, head, (ws) => {
      ws.on('error', () => ws.terminate());
      this.sessions.set(ws, guest.sessionId);
      ws.on('close', () => this.sessions.delete(ws));
      if (learns) this.learns(room, ws);
      else this.leads(room, ws, guest.name);
    });
    return true;
  }

  /** The sessions of those who are connected. */
  get sessionIds(): string[] {
    return [...new Set(this.sessions.values())];
  }

  /** Whoever is signed out has no room any more. */
  endSession(sessionId: string): void {
    for (const [ws, session] of this.sessions) if (session === sessionId) ws.close(4401, 'signed out');
  }

  close(): void {
    for (const ws of this.wss.clients) ws.terminate();
    this.wss.close();
  }

  private learns(room: Room, ws: WebSocket): void {
    room.learner?.close(4409, 'opened elsewhere');
    room.learner = ws;
    this.toDesks(room, { kind: 'learner', name: room.name, here: true });
    // a page that comes back is asked for everything by whoever waits for it
    for (const name of room.desks.values()) say(ws, { kind: 'joined', name });
    ws.on('message', (data) => {
      const text = (data as Buffer).toString();
      for (const desk of room.desks.keys()) if (desk.bufferedAmount < MOST_QUEUED_BYTES) sendOpen(desk, text);
    });
    ws.on('close', () => {
      if (room.learner !== ws) return;
      room.learner = null;
      room.emptyAt_ms = this.now();
      this.toDesks(room, { kind: 'learner', name: room.name, here: false });
    });
  }

  private leads(room: Room, ws: WebSocket, name: string): void {
    room.desks.set(ws, name);
    say(ws, { kind: 'learner', name: room.name, here: room.learner !== null });
    if (room.learner) say(room.learner, { kind: 'joined', name });
    ws.on('message', (data) => {
      const command = readCommand((data as Buffer).toString());
      if (command && room.learner) say(room.learner, { ...command, by: name });
    });
    ws.on('close', () => {
      room.desks.delete(ws);
      if (room.learner) say(room.learner, { kind: 'left', name });
    });
  }

  private toDesks(room: Room, told: RoomTold): void {
    for (const desk of room.desks.keys()) say(desk, told);
  }
}

function readCommand(text: string): DeskCommand | null {
  try {
    return deskCommandSchema.safeParse(JSON.parse(text)).data ?? null;
  } catch {
    return null;
  }
}

const say = (ws: WebSocket, told: RoomTold | (DeskCommand & { by: string })): void => sendOpen(ws, JSON.stringify(told)); // oxfmt-ignore

function sendOpen(ws: WebSocket, text: string): void {
  if (ws.readyState === WebSocket.OPEN) ws.send(text);
}
