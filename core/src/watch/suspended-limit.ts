import type { Limit, TypeFile } from '../aircraft/index.ts';
import type { Guard } from './limit-windows.ts';

/** A limit that a test sets aside: while the test's switch is out of its place, and a moment after. */
export class SuspendedLimit {
  readonly limit: Limit;
  /** column of the switch */
  readonly index: number;
  aside = false;
  private readonly spec: NonNullable<Limit['notWhile']>;
  private until_s = NaN;

  constructor(type: TypeFile, limit: Limit, spec: NonNullable<Limit['notWhile']>) {
    this.limit = limit;
    this.spec = spec;
    this.index = type.channels.findIndex((c) => c.id === spec.channel);
  }

  /** @returns true when it has come into force, or been set aside, with this frame */
  update(t_s: number, values: ArrayLike<number>): boolean {
    const { above = Infinity, below = -Infinity } = this.spec;
    const v = values[this.index]!;
    const out = v > above || v < below;
    if (out) this.until_s = t_s + this.spec.andFor_s;
    const aside = out || t_s < this.until_s;
    const changed = aside !== this.aside;
    this.aside = aside;
    return changed;
  }

  /** A replay must look closer when the switch moves. */
  guard(): Guard {
    const { above = Infinity, below = -Infinity } = this.spec;
    return { index: this.index, low: below, high: above };
  }
}
