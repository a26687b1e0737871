import type { Chart } from './block.ts';
import { type Doc, INK } from './page.ts';

/** Draws a chart into a box: limits and the usual range filled, lines as one path each. */
export function drawChart(doc: Doc, chart: Chart, left: number, top: number, width: number, height: number): void {
  const plot = { x: left + 44, y: top + 4, w: width - 52, h: height - 22 };
  const px = (v: number): number => plot.x + (plot.w * (v - chart.x.from)) / (chart.x.to - chart.x.from || 1);
  const py = (v: number): number =>
    Math.max(plot.y, Math.min(plot.y + plot.h, plot.y + plot.h - (plot.h * (v - chart.y.from)) / (chart.y.to - chart.y.from || 1))); // oxfmt-ignore
  doc.save();
  if (chart.usual) {
    const [low, high] = chart.usual;
    doc.rect(plot.x, py(high), plot.w, py(low) - py(high)).fill(INK.usual);
  }
  for (const limit of chart.limits) drawLimit(doc, limit, plot, py);
  doc.lineWidth(0.5).strokeColor(INK.line).rect(plot.x, plot.y, plot.w, plot.h).stroke();
  doc.font('mono').fontSize(7.5).fillColor(INK.soft);
  for (const tick of chart.y.ticks) doc.text(String(tick), left, py(tick) - 4, { width: 40, align: 'right', lineBreak: false }); // oxfmt-ignore
  for (const tick of chart.x.ticks) doc.text(chart.x.words(tick), px(tick) - 20, plot.y + plot.h + 4, { width: 40, align: 'center', lineBreak: false }); // oxfmt-ignore
  for (const line of chart.lines) drawLine(doc, line, px, py);
  for (const { x, words } of chart.marks) {
    doc.lineWidth(0.7).dash(2, { space: 2 }).strokeColor(INK.now);
    doc
      .moveTo(px(x), plot.y)
      .lineTo(px(x), plot.y + plot.h)
      .stroke()
      .undash();
    doc
      .font('text')
      .fontSize(7.5)
      .fillColor(INK.now)
      .text(words, px(x) + 3, plot.y + 3, { lineBreak: false });
  }
  doc.font('text').fontSize(7.5).fillColor(INK.soft).text(chart.y.unit, plot.x + 3, plot.y + plot.h - 11, { lineBreak: false }); // oxfmt-ignore
  doc.restore();
}

function drawLimit(
  doc: Doc,
  { at, side, words, never }: Chart['limits'][number],
  plot: { x: number; y: number; w: number; h: number },
  py: (v: number) => number,
): void {
  const edge = py(at);
  const [from, to] = side === 'above' ? [plot.y, edge] : [edge, plot.y + plot.h];
  if (to - from < 0.5) return;
  doc.fillOpacity(never ? 1 : 0.55).rect(plot.x, from, plot.w, to - from).fill(INK.limitFill).fillOpacity(1); // oxfmt-ignore
  doc.lineWidth(never ? 1.2 : 0.8).strokeColor(INK.limitEdge);
  if (!never) doc.dash(4, { space: 3 });
  doc
    .moveTo(plot.x, edge)
    .lineTo(plot.x + plot.w, edge)
    .stroke()
    .undash();
  if (to - from > 9) doc.font('text').fontSize(7.5).fillColor(INK.limitEdge).text(words, plot.x + 4, side === 'above' ? edge - 10 : edge + 2, { lineBreak: false }); // oxfmt-ignore
}

function drawLine(
  doc: Doc,
  { points, dash, dots }: Chart['lines'][number],
  px: (v: number) => number,
  py: (v: number) => number,
): void {
  if (dots) {
    doc.fillColor(INK.ink);
    for (const [x, y] of points) doc.circle(px(x), py(y), 1.4).fill();
    return;
  }
  let pen = false;
  doc.lineWidth(1).strokeColor(INK.ink);
  if (dash) doc.dash(3, { space: 2 });
  for (const [x, y] of points) {
    // what is not known is a gap
    if (Number.isNaN(y)) pen = false;
    else if (pen) doc.lineTo(px(x), py(y));
    else {
      doc.moveTo(px(x), py(y));
      pen = true;
    }
  }
  doc.stroke().undash();
}
