import PDFDocument from 'pdfkit';
import { PREVAILS } from '@rouse/core/people';
import type { Block, Report } from './block.ts';
import { drawChart } from './chart.ts';
import { fontOf } from './fonts.ts';
import { type Doc, INK, PAGE, WIDTH } from './page.ts';

const ROW = 16;
const CHART_HEIGHT = 170;

/** Draws a report on A4: fonts embedded, drawings as vectors, tags for readers, page numbers and the digest on every page. */
export async function drawReport(report: Report): Promise<Uint8Array> {
  const doc = new PDFDocument({
    size: 'A4',
    margins: { top: PAGE.top, bottom: PAGE.bottom, left: PAGE.left, right: PAGE.right },
    bufferPages: true,
    tagged: true,
    pdfVersion: '1.7',
    subset: 'PDF/UA' as never,
    lang: 'en-GB',
    displayTitle: true,
    font: null as never,
    info: { Title: report.title, Author: 'Rouse', Subject: report.subtitle },
  });
  const chunks: Buffer[] = [];
  doc.on('data', (chunk: Buffer) => chunks.push(chunk));
  const done = new Promise<void>((resolve) => doc.on('end', resolve));
  for (const face of ['text', 'strong', 'mono'] as const) doc.registerFont(face, fontOf(face));
  const root = doc.struct('Document');
  doc.addStructure(root);
  const paper = new Paper(doc, root);
  paper.title(report.title, report.subtitle);
  for (const block of report.blocks) paper.put(block);
  root.end();
  footers(doc, report);
  doc.end();
  await done;
  return new Uint8Array(Buffer.concat(chunks));
}

class Paper {
  private readonly doc: Doc;
  private readonly root: PDFKit.PDFStructureElement;

  constructor(doc: Doc, root: PDFKit.PDFStructureElement) {
    this.doc = doc;
    this.root = root;
  }

  title(title: string, subtitle: string): void {
    this.say('H1', 'strong', 20, INK.ink, title);
    this.say('P', 'text', 10.5, INK.soft, subtitle);
    this.doc.moveDown(0.4);
  }

  put(block: Block): void {
    switch (block.kind) {
      case 'heading':
        this.room(60);
        this.doc.moveDown(0.6);
        this.say('H2', 'strong', 13, INK.ink, block.words);
        this.doc.moveDown(0.15);
        break;
      case 'words': {
        const colour = block.weight === 'warning' ? INK.warning : block.weight === 'soft' ? INK.soft : INK.ink;
        this.say('P', block.weight === 'strong' || block.weight === 'warning' ? 'strong' : 'text', 10.5, colour, block.words);
        break;
      }
      case 'facts':
        this.table({ kind: 'table', head: [], widths: [0.34, 0.66], rows: block.facts.map(([a, b]) => [a, b]) });
        break;
      case 'table':
        this.table(block);
        break;
      case 'chart': {
        this.room(CHART_HEIGHT + 30);
        this.say('H3', 'strong', 10.5, INK.ink, block.chart.title);
        const { doc } = this;
        const y = doc.y + 2;
        this.root.add(doc.struct('Figure', { alt: block.chart.label }, () => drawChart(doc, block.chart, PAGE.left, y, WIDTH, CHART_HEIGHT))); // oxfmt-ignore
        doc.x = PAGE.left;
        doc.y = y + CHART_HEIGHT + 12;
      }
    }
  } // oxfmt-ignore

  /** Rows are as high as their longest cell; the head is said again on each page. */
  private table({ head, widths, rows, right = [] }: Extract<Block, { kind: 'table' }>): void {
    const { doc } = this;
    const table = doc.struct('Table');
    this.root.add(table);
    const edges = widths.map((_, i) => PAGE.left + WIDTH * widths.slice(0, i).reduce((a, b) => a + b, 0));
    const row = (cells: readonly string[], tag: 'TH' | 'TD'): void => {
      const face = tag === 'TH' ? 'strong' : 'text';
      doc.font(face).fontSize(9.5);
      const heights = cells.map((c, i) => doc.heightOfString(c || ' ', { width: WIDTH * widths[i]! - 8 }));
      const height = Math.max(ROW, ...heights.map((h) => h + 5));
      if (doc.y + height > PAGE.height - PAGE.bottom) {
        doc.addPage();
        if (tag === 'TD' && head.length > 0) row(head, 'TH');
      }
      const y = doc.y;
      const line = doc.struct('TR');
      table.add(line);
      cells.forEach((cell, i) =>
        line.add(
          doc.struct(tag, {}, () => {
            doc
              .font(face)
              .fontSize(9.5)
              .fillColor(head.length === 0 && i === 0 ? INK.soft : INK.ink);
            doc.text(cell || ' ', edges[i]! + 4, y + 3, { width: WIDTH * widths[i]! - 8, align: right.includes(i) ? 'right' : 'left' }); // oxfmt-ignore
          }),
        ),
      );
      line.end();
      doc.markContent('Artifact', { type: 'Layout' } as never);
      doc.lineWidth(0.5).strokeColor(INK.line).moveTo(PAGE.left, y + height).lineTo(PAGE.left + WIDTH, y + height).stroke(); // oxfmt-ignore
      doc.endMarkedContent();
      doc.x = PAGE.left;
      doc.y = y + height;
    };
    if (head.length > 0) row(head, 'TH');
    for (const cells of rows) row(cells, 'TD');
    table.end();
    doc.moveDown(0.5);
  }

  private say(tag: string, face: string, size: number, colour: string, words: string): void {
    const { doc } = this;
    this.root.add(
      doc.struct(tag as never, {}, () => {
        doc.font(face).fontSize(size).fillColor(colour).text(words, PAGE.left, doc.y, { width: WIDTH });
      }),
    );
  }

  private room(height: number): void {
    if (this.doc.y + height > PAGE.height - PAGE.bottom) this.doc.addPage();
  }
}

function footers(doc: Doc, { digest }: Report): void {
  const { count } = doc.bufferedPageRange();
  for (let p = 0; p < count; p++) {
    doc.switchToPage(p);
    doc.page.margins.bottom = 0;
    doc.markContent('Artifact', { type: 'Pagination' } as never);
    const y = PAGE.height - 44;
    doc.font('text').fontSize(8).fillColor(INK.soft).text(PREVAILS, PAGE.left, y, { width: WIDTH - 70, lineBreak: false });
    doc.text(`Page ${p + 1} of ${count}`, PAGE.left + WIDTH - 70, y, { width: 70, align: 'right', lineBreak: false });
    doc.font('mono').fontSize(7).text(`${digest.of} ${digest.value}`, PAGE.left, y + 12, { width: WIDTH, lineBreak: false });
    doc.endMarkedContent();
  }
} // oxfmt-ignore
