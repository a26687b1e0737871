import net from 'node:net';
import type { StandInAnswer, StandInCommand } from '@rouse/core/contract';
import { Refusal } from '../errors.ts';
import { readLines } from './read-lines.ts';

const ANSWER_WITHIN_MS = 2000;

/** Moves the cockpit of the stand-in through its control port, one short connection a command. */
export class StandInClient {
  private readonly port: number;
  private readonly token: string;

  /** @param control where it listens, and the word that it wants to hear */
  constructor({ port, token }: { port: number; token: string }) {
    this.port = port;
    this.token = token;
  }

  /** @throws Refusal no-stand-in when nothing answers; bad-request when the stand-in will not have it */
  async send(command: StandInCommand): Promise<Extract<StandInAnswer, { ok: true }>> {
    const answer = await this.exchange(command).catch(() => {
      throw new Refusal('no-stand-in', 'The stand-in device does not answer on its control port.');
    });
    if (!answer.ok) throw new Refusal('bad-request', answer.message);
    return answer;
  }

  private exchange(command: StandInCommand): Promise<StandInAnswer> {
    return new Promise((resolve, reject) => {
      const socket = net.connect({ host: '127.0.0.1', port: this.port, noDelay: true });
      socket.setTimeout(ANSWER_WITHIN_MS, () => socket.destroy(new Error('no answer')));
      socket.on('error', reject);
      socket.on('connect', () => socket.write(`${JSON.stringify({ token: this.token, ...command })}\n`));
      readLines(socket, (line) => {
        resolve(JSON.parse(line) as StandInAnswer);
        socket.end();
      });
      socket.on('close', () => reject(new Error('closed')));
    });
  }
}
