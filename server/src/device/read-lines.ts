import type { Socket } from 'node:net';

/** no unit has a longer line; what goes on without an end is no line */
const LONGEST_LINE_BYTES = 16 * 1024;
const NEWLINE = 10;
/** a browser can be made to post to any port: a connection that begins like this is none of a unit, or of a server of ours */
const HTTP = /^(GET|POST|PUT|HEAD|OPTIONS|DELETE|PATCH|CONNECT|TRACE) /;

/**
 * Calls `onLine` for each line of a socket. A connection that speaks HTTP, or whose line has no end, is closed.
 * The socket's own error handling decides what an error means.
 */
export function readLines(socket: Socket, onLine: (line: string) => void): void {
  let held = Buffer.alloc(0);
  let begun = false;
  socket.on('data', (data: Buffer) => {
    let bytes = held.length > 0 ? Buffer.concat([held, data]) : data;
    for (let end = bytes.indexOf(NEWLINE); end >= 0; end = bytes.indexOf(NEWLINE)) {
      const line = bytes.toString('utf8', 0, end).replace(/\r$/, '');
      bytes = bytes.subarray(end + 1);
      if (!begun && HTTP.test(line)) return void socket.destroy();
      begun = true;
      if (end <= LONGEST_LINE_BYTES) onLine(line);
      if (socket.destroyed) return;
    }
    if (bytes.length > LONGEST_LINE_BYTES) socket.destroy();
    else held = Buffer.from(bytes);
  });
}
