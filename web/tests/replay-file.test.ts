import { describe, expect, test } from 'vitest';
import { guessMapping, previewOf, RowReader } from '@rouse/core/replay';
import { openFile } from '../src/features/replay/file-reader.ts';
import { skerry } from '../../tests/skerry.ts';

const TABLE = 'Time;Ng;TOT °C\r\n0,0;12,5;40\r\n0,5;13,0;41\r\n1,0;14,5;44\r\n';

/** Two bytes a character with the mark in front, as spreadsheets save it. */
function utf16(text: string, littleEndian: boolean): Blob {
  const view = new DataView(new ArrayBuffer(2 * (text.length + 1)));
  view.setUint16(0, 0xfeff, littleEndian);
  for (let i = 0; i < text.length; i++) view.setUint16(2 * (i + 1), text.charCodeAt(i), littleEndian);
  return new Blob([view.buffer]);
}

async function framesOf(file: Blob): Promise<number[][]> {
  const { bytes, head } = await openFile(file);
  const mapping = guessMapping(head, skerry.channels);
  const rows: number[][] = [];
  const ng = skerry.channels.findIndex((c) => c.id === 'ng.1');
  const tot = skerry.channels.findIndex((c) => c.id === 'tot.1');
  const reader = new RowReader(mapping, skerry.channels, head.names, (t_s, values) =>
    rows.push([t_s, values[ng]!, values[tot]!]),
  );
  reader.push(new Uint8Array(await bytes.arrayBuffer()));
  reader.end();
  return rows;
}

describe('a recorded file is read the same', () => {
  const wanted = [
    [0, 12.5, 40],
    [0.5, 13, 41],
    [1, 14.5, 44],
  ];
  test.each([
    ['UTF-8', new Blob([TABLE])],
    ['UTF-8 with a mark', new Blob([`\uFEFF${TABLE}`])],
    ['UTF-16, low byte first', utf16(TABLE, true)],
    ['UTF-16, high byte first', utf16(TABLE, false)],
    ['one byte a letter', new Blob([Uint8Array.from(TABLE, (c) => c.charCodeAt(0))])],
  ])('in %s', async (_name, file) => {
    expect(await framesOf(file)).toEqual(wanted);
  });

  test('a line that the first look cuts off is not taken for a short row', async () => {
    const more = Array.from({ length: 600 }, (_, k) => `spare ${k}`);
    const rows = Array.from({ length: 60 }, (_, k) => [k, 12, 40, ...more.map(() => '1000.5')].join(';')).join('\n');
    const { head } = await openFile(new Blob([`${['Time', 'Ng', 'TOT', ...more].join(';')}\n${rows}\n`]));
    const mapping = guessMapping(head, skerry.channels);
    expect(previewOf(head, mapping, skerry.channels).bad).toBeNull();
    expect(head.rows.at(-1)).toHaveLength(603);
  });

  test('what is no table is refused with its row', async () => {
    await expect(openFile(new Blob(['The flight was quiet.\nNothing was recorded.\n']))).rejects.toMatchObject({
      row: 1,
      message: expect.stringContaining('no table') as string,
    });
  });
});
