import {
  type Channel,
  channelsOf,
  type GateSpec,
  sayCondition,
  sayValue,
  Sensed,
  type TypeFile,
  type Verdict,
} from '../aircraft/index.ts';

/** how often the reading behind a gate is kept, and how many are: the forecast looks back this far */
const KEEP_EVERY_S = 1;
const KEPT = 15;
/** a forecast further than this is no forecast */
const LONGEST_S = 1800;

/** One thing that must hold before the starter turns, with a forecast of when a falling or rising reading will meet it. */
export class Gate {
  readonly spec: GateSpec;
  readonly words: string;
  readonly channel: string;
  verdict: Verdict = 'unknown';
  /** the reading that decides, NaN when unknown */
  value = NaN;
  private readonly sensed: Sensed;
  private readonly index: number;
  private readonly decides: Channel;
  private readonly target: number;
  private readonly kept_s = new Float64Array(KEPT);
  private readonly kept = new Float64Array(KEPT);
  private count = 0;

  constructor(type: TypeFile, spec: GateSpec) {
    this.spec = spec;
    this.sensed = new Sensed(spec.condition, type.channels);
    this.words = sayCondition(spec.condition, type.channels);
    this.channel = channelsOf(spec.condition)[0]!;
    this.index = type.channels.findIndex((c) => c.id === this.channel);
    this.decides = type.channels[this.index]!;
    this.target = targetOf(spec);
  }

  /** The reading that decides, as it is shown everywhere. */
  get reading(): string {
    return sayValue(this.decides, this.value);
  }

  /** A start was stopped: what was so before it says nothing of the next. */
  forget(): void {
    this.verdict = 'unknown';
    this.value = NaN;
    this.count = 0;
  }

  /** One reading while an engine that was stopped runs down: what it shows as met in the flow of air may not stay so. */
  runDown(t_s: number, values: ArrayLike<number>): void {
    this.count = 0;
    this.value = values[this.index] ?? NaN;
    this.verdict = this.sensed.update(t_s, values) === false ? false : 'unknown';
  }

  /** One reading while the starter rests. */
  rest(t_s: number, values: ArrayLike<number>): void {
    const met = this.verdict === true;
    this.verdict = this.sensed.update(t_s, values);
    // what it did before it was last met says nothing of how it will come back
    if (met && this.verdict !== true) this.count = 0;
    this.value = values[this.index] ?? NaN;
    if (Number.isNaN(this.value)) {
      this.count = 0;
      return;
    }
    const { kept_s, kept } = this;
    if (this.count > 0 && t_s - kept_s[this.count - 1]! < KEEP_EVERY_S) return;
    if (this.count === KEPT) {
      kept_s.copyWithin(0, 1);
      kept.copyWithin(0, 1);
      this.count--;
    }
    kept_s[this.count] = t_s;
    kept[this.count++] = this.value;
  }

  /**
   * When the reading will meet the gate: it is taken to approach its own final value exponentially, as a battery's
   * charging current does; that value comes from three means of the last quarter minute.
   * @returns seconds from the last reading, rounded up; 0 when it is met, null when it does not get nearer
   */
  predicted_s(): number | null {
    if (this.verdict === true) return 0;
    if (this.count < KEPT || Number.isNaN(this.target)) return null;
    const third = KEPT / 3;
    const mean = (from: number): number => {
      let sum = 0;
      for (let i = from; i < from + third; i++) sum += this.kept[i]!;
      return sum / third;
    };
    const [a, b, c] = [mean(0), mean(third), mean(2 * third)];
    const span_s = (this.kept_s[KEPT - 1]! - this.kept_s[0]!) / (KEPT - 1);
    const step_s = span_s * third;
    const rate = (c - b) / step_s;
    const away = this.target - this.kept[this.count - 1]!;
    if (rate * away <= 0) return null;
    const ratio = (b - c) / (a - b);
    const seconds =
      ratio > 0 && ratio < 0.98
        ? approach(c, (b - c) / (1 - ratio), ratio, this.target, step_s) - step_s / 2
        : away / rate;
    return seconds <= LONGEST_S ? Math.max(1, Math.ceil(seconds)) : null;
  }
}

/** Seconds from the mean `c` until the target, when the reading still has `left` to fall and keeps `ratio` of it a step. */
function approach(c: number, left: number, ratio: number, target: number, step_s: number): number {
  const final = c - left * ratio;
  const share = (target - final) / (c - final);
  return share > 0 ? (step_s * Math.log(share)) / Math.log(ratio) : Infinity;
}

function targetOf({ condition }: GateSpec): number {
  if ('atMost' in condition) return condition.atMost;
  if ('atLeast' in condition) return condition.atLeast;
  if ('below' in condition) return condition.below;
  return 'above' in condition ? condition.above : NaN;
}
