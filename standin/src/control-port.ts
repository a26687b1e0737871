import net from 'node:net';
import readline from 'node:readline';
import { type StandInAnswer, type StandInCommand, standInCommandSchema } from '@rouse/core/contract';

/** Listens on loopback for commands, one JSON object a line, and answers each. @returns the server, listening */
export function openControlPort(port: number, obey: (command: StandInCommand) => StandInAnswer): Promise<net.Server> {
  const server = net.createServer((socket) => {
    socket.on('error', () => socket.destroy());
    readline
      .createInterface({ input: socket })
      .on('line', (line) => socket.write(`${JSON.stringify(answer(line, obey))}\n`))
      .on('error', () => undefined); // handled at the socket
  });
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', () => resolve(server));
  });
}

function answer(line: string, obey: (command: StandInCommand) => StandInAnswer): StandInAnswer {
  let parsed: unknown;
  try {
    parsed = JSON.parse(line);
  } catch {
    return { ok: false, message: 'a command is one JSON object on one line' };
  }
  const command = standInCommandSchema.safeParse(parsed);
  return command.success
    ? obey(command.data)
    : { ok: false, message: command.error.issues[0]?.message ?? 'not a command' };
}
