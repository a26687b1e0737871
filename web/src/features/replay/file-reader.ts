import { BadRow, type Encoding, encodingOf, type FileHead, headOf, isSheet, sheetAsCsv } from '@rouse/core/replay';

const HEAD_BYTES = 64 * 1024;
/** two bytes a character cannot be read from the middle: such a file is rewritten in memory, up to this size */
const MOST_WIDE_BYTES = 100 * 1024 * 1024;

export interface OpenedFile {
  bytes: Blob;
  head: FileHead;
}

/** Looks at the beginning of a file. @throws BadRow when it is no table, or too large in its encoding */
export async function openFile(chosen: Blob): Promise<OpenedFile> {
  const packed = isSheet(new Uint8Array(await chosen.slice(0, 4).arrayBuffer()));
  const file = packed ? new Blob([await sheetAsCsv(await chosen.arrayBuffer())]) : chosen;
  const start = new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer());
  const encoding = encodingOf(start);
  const bytes = encoding.startsWith('utf-16') ? await narrowed(file, encoding) : file;
  const text = new TextDecoder(encoding).decode(start);
  // a line that the window cuts off would look like a row with too few fields
  const whole = file.size > HEAD_BYTES ? text.slice(0, text.lastIndexOf('\n')) : text;
  const head = headOf(whole, encoding);
  if (head.names.length < 2 || head.rows.length === 0)
    throw new BadRow(1, '', 'this is no table: no separator cuts its rows into columns');
  return { bytes, head };
}

async function narrowed(file: Blob, encoding: Encoding): Promise<Blob> {
  if (file.size > MOST_WIDE_BYTES) throw new BadRow(1, '', 'a UTF-16 file of this size is not read; save it as UTF-8');
  return new Blob([new TextDecoder(encoding).decode(await file.arrayBuffer())]);
}
