import type PDFDocument from 'pdfkit';

/** A4 in points, with its margins. */
export const PAGE = { width: 595.28, height: 841.89, left: 50, right: 50, top: 54, bottom: 64 } as const;
export const WIDTH = PAGE.width - PAGE.left - PAGE.right;
export const INK = { ink: '#16242F', soft: '#566570', line: '#C9D3D6', warning: '#B3161F', usual: '#DDEEF2', limitFill: '#F0DFB0', limitEdge: '#8A6A1F', now: '#A3246F' } as const; // oxfmt-ignore

export type Doc = InstanceType<typeof PDFDocument>;
