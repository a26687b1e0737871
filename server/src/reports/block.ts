/** A report as it is said, before it is drawn: what stands on its pages, in order. */
export interface Report {
  title: string;
  subtitle: string;
  /** what it is sealed by: SHA-256, hex, and of what */
  digest: { of: string; value: string };
  blocks: Block[];
}

export type Block =
  | { kind: 'heading'; words: string }
  | { kind: 'words'; words: string; weight?: 'strong' | 'warning' | 'soft' }
  | { kind: 'facts'; facts: readonly (readonly [string, string])[] }
  | { kind: 'table'; head: readonly string[]; widths: readonly number[]; rows: readonly (readonly string[])[]; right?: readonly number[] } // oxfmt-ignore
  | { kind: 'chart'; chart: Chart };

/** Lines over one axis, with limits and marks: drawn as vectors. */
export interface Chart {
  title: string;
  /** said in place of the drawing to who cannot see it */
  label: string;
  x: { from: number; to: number; words: (value: number) => string; ticks: readonly number[] };
  y: { from: number; to: number; unit: string; ticks: readonly number[] };
  lines: readonly { words: string; points: readonly (readonly [number, number])[]; dash?: boolean; dots?: boolean }[];
  /** from this value on, on this side, nothing is allowed, or only for a time */
  limits: readonly { at: number; side: 'above' | 'below'; words: string; never: boolean }[];
  /** what is usual, low to high */
  usual?: readonly [number, number];
  marks: readonly { x: number; words: string }[];
}
