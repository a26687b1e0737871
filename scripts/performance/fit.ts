// Gauss-Newton with a numeric Jacobian and a little damping: small, smooth fits only.
/** @returns the parameters that make the residuals least */
export function fit(start: readonly number[], residuals: (p: readonly number[]) => number[], passes = 60): number[] {
  let p = [...start];
  let r = residuals(p);
  let damping = 1e-3;
  for (let pass = 0; pass < passes; pass++) {
    const J = p.map((v, k) => {
      const step = Math.max(1e-7, Math.abs(v) * 1e-5);
      const moved = residuals(p.with(k, v + step));
      return moved.map((m, i) => (m - r[i]!) / step);
    });
    const normal = J.map((a, i) => J.map((b, k) => dot(a, b) * (i === k ? 1 + damping : 1)));
    const right = J.map((a) => -dot(a, r));
    const next = p.map((v, k) => v + solve(normal, right)[k]!);
    const after = residuals(next);
    if (dot(after, after) < dot(r, r)) {
      [p, r] = [next, after];
      damping = Math.max(1e-9, damping / 4);
    } else damping *= 10;
  }
  return p;
}

function dot(a: readonly number[], b: readonly number[]): number {
  return a.reduce((sum, v, i) => sum + v * b[i]!, 0);
}

function solve(matrix: readonly (readonly number[])[], right: readonly number[]): number[] {
  const a = matrix.map((row, i) => [...row, right[i]!]);
  const n = right.length;
  for (let c = 0; c < n; c++) {
    let pivot = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(a[r]![c]!) > Math.abs(a[pivot]![c]!)) pivot = r;
    [a[c], a[pivot]] = [a[pivot]!, a[c]!];
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const f = a[r]![c]! / a[c]![c]!;
      for (let k = c; k <= n; k++) a[r]![k]! -= f * a[c]![k]!;
    }
  }
  return a.map((row, i) => row[n]! / row[i]!);
}
