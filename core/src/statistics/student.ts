/** Lanczos approximation of ln Γ(x), x > 0. */
function lnGamma(x: number): number {
  const g = [
    676.5203681218851, -1259.1392167224028, 771.32342877765313, -176.61502916214059, 12.507343278686905,
    -0.13857109526572012, 9.9843695780195716e-6, 1.5056327351493116e-7,
  ];
  if (x < 0.5) return Math.log(Math.PI / Math.sin(Math.PI * x)) - lnGamma(1 - x);
  let sum = 0.99999999999980993;
  for (let i = 0; i < g.length; i++) sum += g[i]! / (x + i);
  const t = x + g.length - 1.5;
  return 0.5 * Math.log(2 * Math.PI) + (x - 0.5) * Math.log(t) - t + Math.log(sum);
}

/** Regularised incomplete beta function by its continued fraction. */
function incompleteBeta(x: number, a: number, b: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  if (x > (a + 1) / (a + b + 2)) return 1 - incompleteBeta(1 - x, b, a);
  const front = Math.exp(lnGamma(a + b) - lnGamma(a) - lnGamma(b) + a * Math.log(x) + b * Math.log(1 - x)) / a;
  const tiny = 1e-300;
  let f = 1;
  let c = 1;
  let d = 0;
  for (let i = 0; i <= 400; i++) {
    const m = Math.floor(i / 2);
    const numerator =
      i === 0
        ? 1
        : i % 2 === 0
          ? (m * (b - m) * x) / ((a + 2 * m - 1) * (a + 2 * m))
          : -((a + m) * (a + b + m) * x) / ((a + 2 * m) * (a + 2 * m + 1));
    d = 1 + numerator * d;
    d = 1 / (Math.abs(d) < tiny ? tiny : d);
    c = 1 + numerator / c;
    if (Math.abs(c) < tiny) c = tiny;
    f *= c * d;
    if (Math.abs(1 - c * d) < 1e-15) break;
  }
  return front * (f - 1);
}

/** The value that Student's t with `dof` degrees of freedom stays below with probability `p` > 0.5. */
export function studentQuantile(p: number, dof: number): number {
  const below = (t: number): number => 1 - 0.5 * incompleteBeta(dof / (dof + t * t), dof / 2, 0.5);
  let [low, high] = [0, 1];
  while (below(high) < p) high *= 2;
  for (let i = 0; i < 200 && high - low > 1e-13 * high; i++) {
    const mid = (low + high) / 2;
    if (below(mid) < p) low = mid;
    else high = mid;
  }
  return (low + high) / 2;
}
