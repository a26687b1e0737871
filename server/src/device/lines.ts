import { createHmac, timingSafeEqual } from 'node:crypto';
import dgram from 'node:dgram';
import net from 'node:net';
import { PassThrough } from 'node:stream';
import { SOURCE_LOST_AFTER_S } from '@rouse/core/watch';
import type { Logger } from 'pino';
import { tokenDigest } from '../accounts/tokens.ts';
import { linesOf, listening, SECOND_UNIT } from './listener.ts';
import { readLines } from './read-lines.ts';
import { type LineSink, type Onward, type Speaker, speakerOf } from './speaker.ts';

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
  operatorId: string;
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

/** How a unit that is not known here showed who it is. */
export type StrangeUnit = { tokenDigest: Buffer } | { deviceId: string };

/** a unit whose datagrams are passed on is looked for again after this */
const LOOKED_FOR_MS = 5000;

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
  private readonly elsewhere: (unit: StrangeUnit) => Promise<Onward | null>;
  /** units whose datagrams are passed on, and to whom */
  private readonly passedOn = new Map<string, { to: Onward | null; at_ms: number }>();
  private server: net.Server | null = null;
  private datagrams: dgram.Socket | null = null;
  private readonly sockets = new Set<net.Socket>();
  private connections = 0;
  /** connections and datagrams of nobody known, since the server began */
  strangers = 0;

  /** @param elsewhere the server that a unit belongs to that is not known here; null where there is none */
  constructor(log: Logger, elsewhere: (unit: StrangeUnit) => Promise<Onward | null>) {
    this.log = log;
    this.elsewhere = elsewhere;
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

  /** Another server has the fleet of this operator. */
  endAll(operatorId: string): void {
    for (const { deviceId, operatorId: of } of this.byId.values()) if (of === operatorId) this.end(deviceId);
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
    let forward: PassThrough | null = null;
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
      if (forward) return forward.write(`${line}\n`);
      if (!unit) {
        clearTimeout(silent);
        const digest = tokenDigest(tokenIn(line));
        unit = this.byToken.get(digest.toString('hex')) ?? null;
        if (unit) return unit.sockets.add(socket);
        forward = new PassThrough();
        forward.write(`${line}\n`);
        return void this.passOn(socket, forward, digest);
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

  /** A unit that is not known here may belong to another server: what it says goes there, and what that one says comes back. */
  private async passOn(socket: net.Socket, said: PassThrough, digest: Buffer): Promise<void> {
    try {
      const to = await this.elsewhere({ tokenDigest: digest });
      if (!to) return this.refuse(socket, null, REFUSED_TOKEN);
      const onward = to.connect();
      onward.on('close', () => socket.destroy());
      socket.on('close', () => onward.destroy());
      said.pipe(onward).pipe(socket);
    } catch {
      // the database is away, or the fleet changes hands: the unit tries again
      socket.destroy();
    }
    return undefined;
  }

  private async passOnDatagram(deviceId: string, message: Buffer): Promise<void> {
    const now_ms = performance.now();
    let known = this.passedOn.get(deviceId);
    if (!known || now_ms - known.at_ms > LOOKED_FOR_MS) {
      known = { to: await this.elsewhere({ deviceId }).catch(() => null), at_ms: now_ms };
      if (this.passedOn.size > MOST_CONNECTIONS) this.passedOn.clear();
      this.passedOn.set(deviceId, known);
    }
    if (known.to) this.datagrams?.send(message, known.to.port, known.to.host);
    else this.strangers++;
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
      if (head) this.passOnDatagram(head[1]!, message).catch(() => undefined);
      else this.strangers++;
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
