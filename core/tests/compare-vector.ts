/** The comparison rule of the shared vectors: every expected key is there, numbers agree within tolerance, the rest is equal. */
export interface Tolerance {
  abs: number;
  rel: number;
  keys?: Record<string, number>;
}

/** @returns the first difference in words, or null */
export function difference(actual: unknown, expected: unknown, tol: Tolerance, key = '', path = ''): string | null {
  if (typeof expected === 'number') {
    if (typeof actual !== 'number') return `${path}: ${String(actual)} is not ${expected}`;
    const room = tol.keys?.[key] ?? tol.abs + tol.rel * Math.abs(expected);
    return Math.abs(actual - expected) <= room ? null : `${path}: ${actual} is not ${expected} within ${room}`;
  }
  if (Array.isArray(expected)) {
    if (!Array.isArray(actual) || actual.length !== expected.length)
      return `${path}: ${JSON.stringify(actual)} is not ${JSON.stringify(expected)}`;
    for (let i = 0; i < expected.length; i++) {
      const d = difference(actual[i], expected[i], tol, key, `${path}[${i}]`);
      if (d) return d;
    }
    return null;
  }
  if (typeof expected === 'object' && expected !== null) {
    if (typeof actual !== 'object' || actual === null) return `${path}: ${String(actual)} is not an object`;
    for (const [k, v] of Object.entries(expected)) {
      const d = difference((actual as Record<string, unknown>)[k], v, tol, k, `${path}.${k}`);
      if (d) return d;
    }
    return null;
  }
  return Object.is(actual, expected) ? null : `${path}: ${String(actual)} is not ${String(expected)}`;
}
