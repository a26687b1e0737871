/** Seeded normal deviates: mulberry32 uniforms, four summed (docs/physics.md 14). Same seed, same sequence, everywhere. */
export class NormalSource {
  private state: number;

  constructor(seed: number) {
    this.state = seed >>> 0;
  }

  /** @returns a uniform deviate in [0, 1) */
  uniform(): number {
    this.state = (this.state + 0x6d2b79f5) >>> 0;
    let t = this.state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  /** @returns a deviate of mean 0 and standard deviation 1, within ±2√3 */
  normal(): number {
    return (this.uniform() + this.uniform() + this.uniform() + this.uniform() - 2) * Math.sqrt(3);
  }
}
