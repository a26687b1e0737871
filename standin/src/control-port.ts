import net from 'node:net';
import { type StandInAnswer, type StandInCommand, standInCommandSchema } from '@rouse/core/contract';

const LONGEST_COMMAND_BYTES = 4096;

/**
 * Listens on loopback for commands, one JSON object a line with the token in it, and answers each. A web page can be made
 * to post to any port of this machine: without the token nothing is moved.
 * @returns the server, listening
 */
export function openControlPort(
  port: number,
  token: string,
  obey: (command: StandInCommand) => StandInAnswer,
): Promise<net.Server> {
  const server = net.createServer((socket) => {
    let held = '';
    socket.setEncoding('utf8');
    socket.on('error', () => socket.destroy());
    socket.on('data', (text: string) => {
      held += text;
      for (let end = held.indexOf('\n'); end >= 0; end = held.indexOf('\n')) {
        const line = held.slice(0, end);
        held = held.slice(end + 1);
        const answered = answer(line, token, obey);
        if (answered === null) return void socket.destroy();
        socket.write(`${JSON.stringify(answered)}\n`);
      }
      if (held.length > LONGEST_COMMAND_BYTES) socket.destroy();
    });
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve(server));
  });
}

/** @returns null for whoever does not know the token */
function answer(line: string, token: string, obey: (command: StandInCommand) => StandInAnswer): StandInAnswer | null {
  let parsed: unknown;
  try {
    parsed = JSON.parse(line);
  } catch {
    return null;
  }
  if (typeof parsed !== 'object' || parsed === null) return null;
  const { token: said, ...rest } = parsed as Record<string, unknown>;
  if (said !== token) return null;
  const command = standInCommandSchema.safeParse(rest);
  return command.success
    ? obey(command.data)
    : { ok: false, message: command.error.issues[0]?.message ?? 'not a command' };
}
