import type { RunUpWatch, TypeFile } from '../aircraft/index.ts';
import type { EventSink } from './events.ts';
import { SeenFor } from './seen-for.ts';

type AvoidSpec = NonNullable<RunUpWatch['avoid']>[number];

/** A speed to pass through and not to stay at, while an engine runs: called once for every stay that is too long. */
export class AvoidedSpeed {
  readonly index: number;
  private readonly spec: AvoidSpec;
  private readonly label: string;
  private readonly emit: EventSink;
  private readonly inside = new SeenFor();
  private called = false;

  constructor(type: TypeFile, spec: AvoidSpec, emit: EventSink) {
    this.spec = spec;
    this.emit = emit;
    this.index = type.channels.findIndex((c) => c.id === spec.channel);
    this.label = type.channels[this.index]!.label;
  }

  step(t_s: number, dt_s: number, value: number): void {
    const { between, longest_s, why } = this.spec;
    const inside_s = this.inside.update(dt_s, value, value > between[0] && value < between[1]);
    if (inside_s === 0) this.called = false;
    if (inside_s <= longest_s || this.called) return;
    this.called = true;
    const text = `${this.label} between ${between[0]} and ${between[1]} % for more than ${longest_s} s. ${why}`;
    this.emit({ kind: 'cue', t_s, code: 'avoided-speed', severity: 'caution', text, say: `${this.label}, move on.` });
  }

  /** Whether a replay must look at each of these rows. */
  needsCloseLook(column: Float64Array, from: number, to: number): boolean {
    if (this.inside.seconds > 0) return true;
    const [low, high] = this.spec.between;
    for (let i = from; i < to; i++) if (column[i]! > low && column[i]! < high) return true;
    return false;
  }
}
