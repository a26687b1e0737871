import { BadRow } from './bad-row.ts';

type Cell = string | number | boolean | Date | null;

/** A sheet is unpacked in memory: more than this is not read. */
const MOST_BYTES = 100 * 1024 * 1024;
const PACKED = [0x50, 0x4b, 0x03, 0x04];

/** Whether a file begins as a packed sheet (XLSX) does. */
export function isSheet(start: Uint8Array): boolean {
  return PACKED.every((byte, i) => start[i] === byte);
}

/**
 * The first sheet of a workbook as a table of text: figures with a decimal point, dates as ISO 8601, so that everything
 * else reads it as it reads any other file.
 * @throws BadRow when it is too large, or cannot be unpacked
 */
export async function sheetAsCsv(packed: ArrayBuffer): Promise<string> {
  if (packed.byteLength > MOST_BYTES)
    throw new BadRow(1, '', 'a sheet of more than 100 MB is not read; save it as CSV');
  const { readSheet } = await import('read-excel-file/universal');
  let rows: Cell[][];
  try {
    rows = (await readSheet(packed)) as Cell[][];
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    throw new BadRow(1, '', `this sheet cannot be unpacked (${why}); save it as CSV`);
  }
  return rows.map((row) => row.map(cellText).join(',')).join('\n') + '\n';
}

function cellText(cell: Cell): string {
  if (cell === null) return '';
  if (cell instanceof Date) return cell.toISOString();
  const text = String(cell);
  return /[",\n\r]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
