import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import { BadRow, type CsvMapping, guessMapping, Scan, type Scanned } from '@rouse/core/replay';
import { type OpenedFile, openFile } from './file-reader.ts';
import type { FromReplay, ToReplay } from './messages.ts';
import { Player } from './player.ts';

const CHUNK_BYTES = 1024 * 1024;
const REPORT_EVERY_MS = 100;

const post = (message: FromReplay): void => self.postMessage(message);
let file: OpenedFile | null = null;
let ready: { type: WatchedType; mapping: CsvMapping; scanned: Scanned } | null = null;
let player: Player | null = null;
let scanning = 0;

self.addEventListener('message', ({ data }: MessageEvent<ToReplay>) => {
  obey(data).catch((error: unknown) => {
    if (error instanceof BadRow)
      post({
        kind: 'refused',
        row: error.row,
        column: error.column,
        message: error.message,
        remedy: 'Change the mapping, or correct the file and open it again.',
      });
    else
      post({
        kind: 'refused',
        row: 0,
        column: '',
        message: error instanceof Error ? error.message : String(error),
        remedy: 'Open the file again.',
      });
  });
});

async function obey(message: ToReplay): Promise<void> {
  switch (message.kind) {
    case 'open':
      player?.stop();
      scanning++;
      ready = null;
      file = await openFile(message.file);
      return post({ kind: 'head', head: file.head, bytes: file.bytes.size });
    case 'guess':
      if (file) post({ kind: 'guessed', mapping: guessMapping(file.head, message.channels) });
      return;
    case 'scan':
      return scan(needWatched(message.type), message.mapping);
    case 'cancel':
      scanning++;
      return post({ kind: 'cancelled' });
    case 'play':
      if (!file || !ready) return;
      player?.stop();
      player = new Player(file, ready.type, ready.mapping, ready.scanned, message.speed, post);
      return player.play(message.from_s);
    case 'speed':
      if (player) player.speed = message.speed;
      return;
    case 'pause':
      return player?.stop();
  }
}

/** One pass over the whole file; another message may end it between two chunks. */
async function scan(type: WatchedType, mapping: CsvMapping): Promise<void> {
  if (!file) return;
  const mine = ++scanning;
  const { bytes, head } = file;
  const pass = new Scan(type, mapping, head.names);
  let reported_ms = 0;
  for (let at = 0; at < bytes.size; at += CHUNK_BYTES) {
    pass.reader.push(new Uint8Array(await bytes.slice(at, at + CHUNK_BYTES).arrayBuffer()));
    if (scanning !== mine) return;
    if (performance.now() - reported_ms < REPORT_EVERY_MS) continue;
    reported_ms = performance.now();
    post({ kind: 'progress', bytes: at, total: bytes.size, rows: pass.rows });
  }
  const scanned = pass.finish();
  if (scanned.rows === 0) throw new BadRow(head.headerRows + 1, '', 'no row of figures was found');
  ready = { type, mapping, scanned };
  post({ kind: 'scanned', scanned });
}
