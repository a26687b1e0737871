import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';

/** What a reader sees of a PDF. */
export interface ReadPdf {
  text: string;
  pages: number;
  /** every font stands in the file */
  fontsEmbedded: boolean;
  fonts: string[];
  bytes: number;
}

/** Reads a PDF with the tools of Debian's poppler. */
export function readPdf(pdf: Uint8Array): ReadPdf {
  const dir = mkdtempSync(path.join(tmpdir(), 'rouse-pdf-'));
  const file = path.join(dir, 'report.pdf');
  try {
    writeFileSync(file, pdf);
    const run = (tool: string, ...args: string[]): string => execFileSync(tool, args, { encoding: 'utf8' });
    const fonts = run('pdffonts', file).trim().split('\n').slice(2);
    return {
      text: run('pdftotext', '-layout', file, '-'),
      pages: Number(/Pages:\s+(\d+)/.exec(run('pdfinfo', file))?.[1]),
      // columns: name, type, encoding, emb, sub, uni, object
      fontsEmbedded: fonts.length > 0 && fonts.every((line) => /\byes\s+(yes|no)\s+(yes|no)\s+\d+\s+\d+$/.test(line)),
      fonts: fonts.map((line) => line.split(/\s+/)[0]!),
      bytes: pdf.length,
    };
  } finally {
    rmSync(dir, { recursive: true, force: true });
  }
}
