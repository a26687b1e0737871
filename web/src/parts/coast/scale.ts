/** A straight scale from values to pixels, and its round ticks. */
export interface Scale {
  readonly domain: readonly [number, number];
  (value: number): number;
}

export function linearScale(domain: readonly [number, number], pixels: readonly [number, number]): Scale {
  const [a, b] = domain;
  const [p, q] = pixels;
  const k = (q - p) / (b - a || 1);
  return Object.assign((value: number) => p + (value - a) * k, { domain });
}

/** Round values inside the domain, about `count` of them. */
export function ticks([low, high]: readonly [number, number], count: number): number[] {
  const raw = (high - low) / Math.max(1, count);
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = [1, 2, 2.5, 5, 10].map((m) => m * power).find((s) => s >= raw)!;
  const out: number[] = [];
  for (let v = Math.ceil(low / step - 1e-9) * step; v <= high + step * 1e-9; v += step)
    out.push(Math.round(v / step) * step + 0);
  return out;
}

/** SVG path of the band between two curves, broken where either is unknown. */
export function bandPath(
  xs: readonly number[],
  low: readonly number[],
  high: readonly number[],
  x: Scale,
  y: Scale,
): string {
  const parts: string[] = [];
  let run: number[] = [];
  const close = (): void => {
    if (run.length > 1) {
      const up = run.map((i) => `${x(xs[i]!).toFixed(1)} ${y(high[i]!).toFixed(1)}`);
      const down = run.toReversed().map((i) => `${x(xs[i]!).toFixed(1)} ${y(low[i]!).toFixed(1)}`);
      parts.push(`M${[...up, ...down].join('L')}z`);
    }
    run = [];
  };
  for (let i = 0; i < xs.length; i++) {
    if (Number.isNaN(low[i]!) || Number.isNaN(high[i]!)) close();
    else run.push(i);
  }
  close();
  return parts.join('');
}
