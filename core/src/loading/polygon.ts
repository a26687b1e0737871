import { needNumber, Refused } from '../quantity/index.ts';

export type Point = readonly [number, number];
export type Where = 'inside' | 'edge' | 'outside';

const EDGE = 1e-9;

function distance([x, y]: Point, [ax, ay]: Point, [bx, by]: Point): number {
  const [dx, dy] = [bx - ax, by - ay];
  const length2 = dx * dx + dy * dy;
  const t = length2 === 0 ? 0 : Math.max(0, Math.min(1, ((x - ax) * dx + (y - ay) * dy) / length2));
  return Math.hypot(x - ax - t * dx, y - ay - t * dy);
}

/** Any simple polygon; its edge is permitted. @throws Refused BAD_TABLE for a polygon without area */
export function pointInPolygon(polygon: readonly Point[], x: number, y: number): { where: Where } {
  needNumber(x, 'x');
  needNumber(y, 'y');
  const n = Array.isArray(polygon) ? polygon.length : 0;
  let area = 0;
  for (let i = 0; i < n; i++) {
    const [a, b] = [polygon[i]!, polygon[(i + 1) % n]!];
    area += a[0] * b[1] - b[0] * a[1];
  }
  if (n < 3 || Math.abs(area) < 1e-12) throw new Refused('BAD_TABLE', 'polygon');
  let inside = false;
  for (let i = 0; i < n; i++) {
    const [a, b] = [polygon[i]!, polygon[(i + 1) % n]!];
    if (distance([x, y], a, b) <= EDGE) return { where: 'edge' };
    if (a[1] > y !== b[1] > y && x < a[0] + ((y - a[1]) / (b[1] - a[1])) * (b[0] - a[0])) inside = !inside;
  }
  return { where: inside ? 'inside' : 'outside' };
}

/** Where a polygon begins and ends on the horizontal line at `y`, or null when the line misses it. */
export function widthAt(polygon: readonly Point[], y: number): [number, number] | null {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < polygon.length; i++) {
    const [[ax, ay], [bx, by]] = [polygon[i]!, polygon[(i + 1) % polygon.length]!];
    if ((ay < y && by < y) || (ay > y && by > y)) continue;
    const at = ay === by ? [ax, bx] : [ax + ((y - ay) / (by - ay)) * (bx - ax)];
    low = Math.min(low, ...at);
    high = Math.max(high, ...at);
  }
  return low <= high ? [low, high] : null;
}
