import fs from 'node:fs';
import { createRequire } from 'node:module';
import { inflateSync } from 'node:zlib';

const require = createRequire(import.meta.url);

const FILES = {
  text: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff',
  strong: '@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff',
  mono: '@fontsource/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-400-normal.woff',
} as const;
export type Face = keyof typeof FILES;

const read = new Map<Face, Buffer>();

/** A face as TrueType, as documents embed it; read once. */
export function fontOf(face: Face): Buffer {
  const known = read.get(face);
  if (known) return known;
  const font = trueTypeOf(fs.readFileSync(require.resolve(FILES[face])));
  read.set(face, font);
  return font;
}

/** WOFF is TrueType with each table deflated; unpacked once here it need not be for every document. */
function trueTypeOf(woff: Buffer): Buffer {
  const tables = woff.readUInt16BE(12);
  const head = Buffer.alloc(12 + 16 * tables) as Buffer;
  const parts: Buffer[] = [head];
  let at = head.length;
  const log = Math.floor(Math.log2(tables));
  woff.copy(head, 0, 4, 8);
  head.writeUInt16BE(tables, 4);
  head.writeUInt16BE(16 << log, 6);
  head.writeUInt16BE(log, 8);
  head.writeUInt16BE(tables * 16 - (16 << log), 10);
  for (let i = 0; i < tables; i++) {
    const entry = 44 + 20 * i;
    const [from, packed, length] = [4, 8, 12].map((k) => woff.readUInt32BE(entry + k)) as [number, number, number];
    const raw = woff.subarray(from, from + packed);
    const data = packed < length ? inflateSync(raw) : raw;
    woff.copy(head, 12 + 16 * i, entry, entry + 4);
    woff.copy(head, 16 + 16 * i, entry + 16, entry + 20);
    head.writeUInt32BE(at, 20 + 16 * i);
    head.writeUInt32BE(length, 24 + 16 * i);
    const pad = Buffer.alloc((4 - (length % 4)) % 4);
    parts.push(data, pad);
    at += length + pad.length;
  }
  return Buffer.concat(parts);
}
