/** Smoothstep of x from 0 at `a` to 1 at `b`. */
export function ramp(x: number, a: number, b: number): number {
  const u = (x - a) / (b - a);
  return u <= 0 ? 0 : u >= 1 ? 1 : u * u * (3 - 2 * u);
}
