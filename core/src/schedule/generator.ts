import { normalQuantile } from '../statistics/index.ts';

/**
 * xoshiro128** seeded by splitmix32: the random numbers of the schedule, the same everywhere.
 * @source docs/calculations.md, critical path
 */
export class Generator {
  private readonly s = new Uint32Array(4);

  constructor(seed: number) {
    let a = seed >>> 0;
    for (let i = 0; i < 4; i++) {
      a = (a + 0x9e3779b9) >>> 0;
      let t = a ^ (a >>> 16);
      t = Math.imul(t, 0x21f0aaad);
      t ^= t >>> 15;
      t = Math.imul(t, 0x735a2d97);
      this.s[i] = t ^ (t >>> 15);
    }
  }

  /** The next 32 bits, unsigned. */
  next(): number {
    const { s } = this;
    const scrambled = Math.imul(s[1]!, 5);
    const result = Math.imul((scrambled << 7) | (scrambled >>> 25), 9) >>> 0;
    const t = s[1]! << 9;
    s[2]! ^= s[0]!;
    s[3]! ^= s[1]!;
    s[1]! ^= s[2]!;
    s[0]! ^= s[3]!;
    s[2]! ^= t;
    s[3] = (s[3]! << 11) | (s[3]! >>> 21);
    return result;
  }

  /** A standard normal number. */
  normal(): number {
    return normalQuantile((this.next() + 0.5) / 2 ** 32);
  }
}

/** The first `n` numbers of a seed, for checking another implementation. */
export function generatorSequence(seed: number, n: number): { u32: number[] } {
  const generator = new Generator(seed);
  return { u32: Array.from({ length: n }, () => generator.next()) };
}
