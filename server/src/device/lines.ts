import { createHmac, timingSafeEqual } from 'node:crypto';
import dgram from 'node:dgram';
import net from 'node:net';
import { SOURCE_LOST_AFTER_S } from '@rouse/core/watch';
import type { Logger } from 'pino';
import { tokenDigest } from '../accounts/tokens.ts';
import { linesOf, listening, SECOND_UNIT } from './listener.ts';
import { readLines } from './read-lines.ts';
import { type LineSink, type Speaker, speakerOf } from './speaker.ts';

/** a unit says its token within this */
const TOKEN_WITHIN_MS = 5000;
const MOST_CONNECTIONS = 256;
/** a unit that has said nothing for longer is silent */
const HEARD_FOR_MS = 2 * 1000 * SOURCE_LOST_AFTER_S;
/** no unit says more: ten lines fifty times a second */
const MOST_LINES_A_SECOND = 1000;
const REFUSED_TOKEN = 'this token is not known here; an administrator makes one under Set up, Lines\n';
const TOO_MUCH = `more than ${MOST_LINES_A_SECOND} lines a second; this connection is closed\n`;

/** A unit that may speak for an aircraft. */
export interface KnownUnit {
  deviceId: string;
  tokenDigest: Buffer;
  datagramKey: Buffer;
  sink: LineSink;
}

interface Unit extends KnownUnit {
  speaker: Speaker;
  sockets: Set<net.Socket>;
  /** datagrams count upwards: one that does not was heard before */
  counted: number;
  refused: number;
  /** its own last line that was taken, monotonic */
  heardAt_ms: number;
}

/** What the datagrams of a unit are signed with: whoever has the token can make it, and nobody else. */
export const datagramKeyOf = (token: string): Buffer => tokenDigest(`datagrams ${token}`);

/** What stands in the first line of a datagram: unit, number, and a digest over number and lines. */
export function datagramHead(deviceId: string, key: Buffer, count: number, lines: string): string {
  return `${deviceId} ${count} ${createHmac('sha256', key).update(`${count}\n${lines}`).digest('hex')}\n`;
}

const HEAD = /^([0-9a-f-]{36}) (\d{1,15}) ([0-9a-f]{64})\n/;

/**
 * The one port for units that show who they are: over TCP by a token in the first line of the connection, over UDP by a
 * signed datagram. What is refused is counted.
 */
export class Lines {
  private readonly byToken = new Map<string, Unit>();
  private readonly byId = new Map<string, Unit>();
  private readonly log: Logger;
  private server: net.Server | null = null;
  private datagrams: dgram.Socket | null = null;
  private readonly sockets = new Set<net.Socket>();
  private connections = 0;
  /** connections and datagrams of nobody known, since the server began */
  strangers = 0;

  constructor(log: Logger) {
    this.log = log;
  }

  get port(): number {
    return (this.server!.address() as net.AddressInfo).port;
  }

  add(known: KnownUnit): void {
    const unit: Unit = {
      ...known,
      speaker: speakerOf(known.sink),
      sockets: new Set(),
      counted: -1,
      refused: 0,
      heardAt_ms: -Infinity,
    };
    this.byToken.set(known.tokenDigest.toString('hex'), unit);
    this.byId.set(known.deviceId, unit);
  }

  /** Its token is worth nothing from now on. */
  end(deviceId: string): void {
    const unit = this.byId.get(deviceId);
    if (!unit) return;
    this.byId.delete(deviceId);
    this.byToken.delete(unit.tokenDigest.toString('hex'));
    for (const socket of unit.sockets) socket.destroy();
  }

  stateOf(deviceId: string): { connected: boolean; refused: number } {
    const unit = this.byId.get(deviceId);
    const heard = unit !== undefined && performance.now() - unit.heardAt_ms < HEARD_FOR_MS;
    return { connected: heard, refused: unit?.refused ?? 0 };
  }

  async listen(host: string, port: number): Promise<void> {
    const server = net.createServer({ noDelay: true }, (socket) => this.connected(socket));
    server.maxConnections = MOST_CONNECTIONS;
    await listening(server, () => server.listen(port, host));
    this.server = server;
    const datagrams = dgram.createSocket(host.includes(':') ? 'udp6' : 'udp4');
    datagrams.on('message', (message) => this.datagram(message));
    await listening(datagrams, () => datagrams.bind(this.port, host));
    datagrams.on('error', () => undefined);
    server.on('error', () => undefined);
    this.datagrams = datagrams;
  }

  close(): void {
    this.server?.close();
    this.datagrams?.close();
    for (const socket of this.sockets) socket.destroy();
  }

  private connected(socket: net.Socket): void {
    const who = `connection ${++this.connections} with a token`;
    let unit: Unit | null = null;
    this.sockets.add(socket);
    const silent = setTimeout(() => this.refuse(socket, null, 'no token came\n'), TOKEN_WITHIN_MS);
    let second = 0;
    let lines = 0;
    socket.on('error', () => socket.destroy());
    socket.on('close', () => {
      clearTimeout(silent);
      this.sockets.delete(socket);
      unit?.sockets.delete(socket);
      unit?.speaker.gone(who);
    });
    readLines(socket, (line) => {
      if (!unit) {
        clearTimeout(silent);
        unit = this.byToken.get(tokenDigest(tokenIn(line)).toString('hex')) ?? null;
        if (!unit) return this.refuse(socket, null, REFUSED_TOKEN);
        unit.sockets.add(socket);
        return undefined;
      }
      const now_s = Math.floor(performance.now() / 1000);
      lines = now_s === second ? lines + 1 : 1;
      second = now_s;
      if (lines > MOST_LINES_A_SECOND) return this.refuse(socket, unit, TOO_MUCH);
      if (!unit.speaker.has(who)) return this.refuse(socket, unit, SECOND_UNIT);
      unit.heardAt_ms = performance.now();
      unit.speaker.line(line);
      return undefined;
    });
  }

  private refuse(socket: net.Socket, unit: Unit | null, words: string): void {
    if (unit) unit.refused++;
    else this.strangers++;
    this.log.warn({ unit: unit?.deviceId ?? null, from: socket.remoteAddress }, `a line was refused: ${words.trim()}`);
    socket.end(words);
    // whoever goes on speaking is not listened to
    socket.pause();
  }

  private datagram(message: Buffer): void {
    const head = HEAD.exec(message.toString('latin1', 0, 128));
    const unit = head && this.byId.get(head[1]!);
    if (!unit) {
      this.strangers++;
      return;
    }
    const count = Number(head[2]);
    const body = message.subarray(head[0].length);
    const wanted = createHmac('sha256', unit.datagramKey).update(`${count}\n`).update(body).digest();
    const good = count > unit.counted && timingSafeEqual(wanted, Buffer.from(head[3]!, 'hex'));
    if (!good || !unit.speaker.has(`datagrams of ${unit.deviceId}`)) {
      unit.refused++;
      return;
    }
    unit.counted = count;
    unit.heardAt_ms = performance.now();
    for (const line of linesOf(body)) unit.speaker.line(line);
  }
}

/** A token as it stands in the first line: alone, or as `{"token":"…"}`. */
function tokenIn(line: string): string {
  return /^\s*\{\s*"token"\s*:\s*"([^"]*)"\s*\}\s*$/.exec(line)?.[1] ?? line.trim();
}
