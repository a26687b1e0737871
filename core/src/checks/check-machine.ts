import {
  channelsOf,
  channelsOfCheck,
  type FigureSpec,
  type Finding,
  Sensed,
  type Stage,
  type TraceCheck,
  type TypeFile,
  type Verdict,
} from '../aircraft/index.ts';
import { CheckRecord } from './check-record.ts';
import type { Situation } from './situation.ts';
import { takeFigure } from './figures.ts';
import { type CheckHabit, type FigureReading, NO_HABIT } from './figure-source.ts';
import { type CheckVerdict, type FigureResult, judgeFigure, sayFigure } from './finding.ts';

/** What a check found: numbers from the trace, each with the stretch that shows it. */
export interface CheckResult {
  check: string;
  verdict: CheckVerdict;
  cause: string | null;
  words: string;
  figures: FigureResult[];
  from_s: number;
  to_s: number;
}

/** A check at one moment, as screens show it. */
export interface CheckSnapshot {
  item: string;
  stage: number;
  /** how long the present stage has lasted, and how long it must */
  held_s: number;
  hold_s: number;
  /** what is left of the time that the present stage may take, null where it may take any */
  left_s: number | null;
  /** run clock at which each stage that has begun did so */
  marks: number[];
  /** figures that can be read already */
  figures: { id: string; label: string; unit: string; decimals: number; value: number; verdict: CheckVerdict }[];
}

/** While nothing has been moved, the trace is kept for this long: baselines are read from it. */
const KEPT_S = 20;
/** No frame for longer than this ends a check that has begun. */
const HOLE_S = 1;
/** A reading that decides may be lost for this long before the check is given up. */
const PATIENCE_S = 3;

interface StageNode {
  spec: Stage;
  sensed: Sensed | null;
  lateWhen: readonly { sensed: Sensed; finding: Finding }[];
}

/**
 * One check that is measured from the trace, fed frames in order. Its stages follow the switches themselves; when the
 * last has lasted, its figures are read and judged. It keeps no clock and writes nothing: `result` is what it found.
 */
export class CheckMachine {
  readonly item: string;
  readonly spec: TraceCheck;
  /** the stage that is waited for, or that goes on */
  stage = 0;
  /** when each stage began */
  readonly marks: number[];
  result: CheckResult | null = null;
  private readonly type: TypeFile;
  private readonly habit: CheckHabit;
  private readonly situation: Situation | null;
  private readonly record: CheckRecord;
  private readonly stages: StageNode[];
  private readonly stops: { sensed: Sensed; from: number; to: number; finding: Finding; doubt: boolean }[];
  private readonly early = new Map<string, FigureReading>();
  private enteredAt_s = NaN;
  private since_s = NaN;
  private unknownSince_s = NaN;
  private now_s = NaN;
  private declared = false;
  private readonly again: boolean;

  /**
   * @param habit what this tail showed before
   * @param again it has been flown in this run and was not good
   * @param situation air and weight, for a check of power
   * @throws RangeError for a channel or stage that is not there
   */
  constructor(
    type: TypeFile,
    item: string,
    spec: TraceCheck,
    habit: CheckHabit = NO_HABIT,
    again = false,
    situation: Situation | null = null,
  ) {
    this.again = again;
    this.type = type;
    this.item = item;
    this.spec = spec;
    this.habit = habit;
    this.situation = situation;
    this.record = new CheckRecord(type.channels, channelsOfCheck(spec));
    this.marks = spec.stages.map(() => NaN);
    this.stages = spec.stages.map((stage) => ({
      spec: stage,
      sensed: stage.expect ? new Sensed(stage.expect, type.channels) : null,
      lateWhen: (stage.lateWhen ?? []).map(({ when, cause, words }) => ({
        sensed: new Sensed(when, type.channels),
        finding: { cause, words },
      })),
    }));
    const place = (id: string): number => spec.stages.findIndex((s) => s.id === id);
    this.stops = (spec.stops ?? []).map(({ from, to, when, doubt, cause, words }) => ({
      sensed: new Sensed(when, type.channels),
      from: from === undefined ? -1 : place(from),
      to: to === undefined ? spec.stages.length : place(to),
      finding: { cause, words },
      doubt: doubt === true,
    }));
  }

  /** A person says that the present stage, which nothing senses, is done. */
  declare(): void {
    this.declared = true;
  }

  /** One frame. @returns true when a stage has been completed or the check has ended */
  step(t_s: number, values: ArrayLike<number>): boolean {
    if (this.result) return false;
    const hole_s = t_s - this.now_s;
    this.now_s = t_s;
    if (Number.isNaN(this.enteredAt_s)) this.enteredAt_s = t_s;
    this.record.push(t_s, values);
    if (this.stage === 0) this.record.dropBefore(t_s - KEPT_S);
    // what happened while no frame came nobody has seen
    else if (hole_s > HOLE_S)
      return this.end('unknown', {
        cause: 'data-lost',
        words: `No data for ${hole_s.toFixed(1)} s in the middle of it`,
      });
    const stop = this.stopNow(t_s, values);
    if (stop) return this.end(stop.doubt ? 'unknown' : 'fault', stop.finding);
    const node = this.stages[this.stage]!;
    const holds: Verdict = node.sensed ? node.sensed.update(t_s, values) : this.declared;
    for (const { sensed } of node.lateWhen) sensed.update(t_s, values);
    if (holds === true) return this.hold(t_s, node.spec);
    this.since_s = NaN;
    // the first stage of a check that is flown again is waited for as long as it takes: nothing has been moved
    if (this.stage === 0 && this.again) return false;
    if (this.isBlindTooLong(t_s, holds))
      return this.end('unknown', { cause: 'sensor-lost', words: `${this.lostNames(values)} lost: nothing is known` });
    if (this.stage === 0 && !node.spec.late) return false;
    const { late } = node.spec;
    if (!late || this.leftOf(node.spec)! >= 0) return false;
    const why = node.lateWhen.find((l) => l.sensed.verdict === true)?.finding ?? late;
    return this.end(holds === 'unknown' ? 'unknown' : 'fault', why);
  }

  /** What ends the check at once: every one is fed, so that its dwell counts. */
  private stopNow(t_s: number, values: ArrayLike<number>): (typeof this.stops)[number] | undefined {
    let first: (typeof this.stops)[number] | undefined;
    for (const stop of this.stops)
      if (stop.sensed.update(t_s, values) === true && this.stage > stop.from && this.stage <= stop.to) first ??= stop;
    return first;
  }

  private isBlindTooLong(t_s: number, holds: Verdict): boolean {
    if (holds !== 'unknown') this.unknownSince_s = NaN;
    else if (Number.isNaN(this.unknownSince_s)) this.unknownSince_s = t_s;
    return t_s - this.unknownSince_s > PATIENCE_S;
  }

  snapshot(): CheckSnapshot {
    const spec = this.spec.stages[this.stage];
    const figures = this.spec.figures.flatMap((figure): CheckSnapshot['figures'] => {
      const taken = this.early.get(figure.id);
      if (!taken || taken.value === null) return [];
      const { id, label, unit, decimals, value, verdict } = this.judge(figure, taken);
      return [{ id, label, unit, decimals, value: value!, verdict }];
    });
    return {
      item: this.item,
      stage: this.stage,
      held_s: Number.isNaN(this.since_s) ? 0 : this.now_s - this.since_s,
      hold_s: spec?.hold_s ?? 0,
      left_s: spec && (this.stage > 0 || (spec.late && !this.again)) ? this.leftOf(spec) : null,
      marks: this.marks.filter((m) => !Number.isNaN(m)),
      figures,
    };
  }

  /** What is left of the time that a stage may take, null where it may take any. */
  private leftOf({ within_s, since }: Stage): number | null {
    if (within_s === undefined) return null;
    const from_s =
      since === undefined ? this.enteredAt_s : this.marks[this.spec.stages.findIndex((s) => s.id === since)]!;
    return from_s + within_s - this.now_s;
  }

  private hold(t_s: number, spec: Stage): boolean {
    this.unknownSince_s = NaN;
    if (Number.isNaN(this.since_s)) {
      this.since_s = t_s;
      this.marks[this.stage] = t_s;
    }
    if (t_s - this.since_s < (spec.hold_s ?? 0) - 1e-9) return false;
    this.stage++;
    this.declared = false;
    this.enteredAt_s = t_s;
    this.since_s = NaN;
    this.takeWhatCan();
    if (this.stage === this.stages.length) this.conclude();
    return true;
  }

  /** Figures that the stages so far allow to be read, for the screen. */
  private takeWhatCan(): void {
    for (const figure of this.spec.figures) {
      const { type, spec: check, record, marks, habit, situation } = this;
      const of = { type, check, record, marks, habit, situation, before: this.early };
      this.early.set(figure.id, takeFigure(figure, of));
    }
  }

  private judge(figure: FigureSpec, taken: FigureReading): FigureResult {
    return judgeFigure(figure, taken, this.habit.usual[`${this.spec.check}/${figure.id}`]);
  }

  private conclude(): void {
    const figures = this.spec.figures.map((figure) => this.judge(figure, this.early.get(figure.id)!));
    const first = (verdict: CheckVerdict): FigureResult | undefined =>
      figures.find((f, i) => f.verdict === verdict && !(verdict === 'unknown' && this.spec.figures[i]!.optional));
    const worst = first('fault') ?? first('unknown') ?? first('unusual');
    this.result = {
      check: this.spec.check,
      verdict: worst?.verdict ?? 'good',
      cause: worst?.finding?.cause ?? null,
      words: worst?.finding?.words ?? sayFigures(figures),
      figures,
      ...this.span(),
    };
  }

  private end(verdict: CheckVerdict, finding: Finding): true {
    const { check } = this.spec;
    this.takeWhatCan();
    const figures = this.spec.figures.flatMap((figure) => {
      const taken = this.early.get(figure.id)!;
      return taken.value === null ? [] : [this.judge(figure, taken)];
    });
    this.result = { check, verdict, cause: finding.cause, words: finding.words, figures, ...this.span() };
    return true;
  }

  private span(): { from_s: number; to_s: number } {
    const first = this.marks.find((m) => !Number.isNaN(m)) ?? this.now_s;
    return { from_s: Math.max(this.record.first_s, first - 5), to_s: this.now_s };
  }

  private lostNames(values: ArrayLike<number>): string {
    const { expect } = this.stages[this.stage]!.spec;
    const lost = (expect ? channelsOf(expect) : []).flatMap((id) => {
      const index = this.type.channels.findIndex((c) => c.id === id);
      return Number.isNaN(values[index]!) ? [this.type.channels[index]!.label] : [];
    });
    return lost.join(', ') || 'A reading is';
  }
}

function sayFigures(figures: readonly FigureResult[]): string {
  return figures
    .flatMap((f) => (f.value === null ? [] : [`${f.label} ${sayFigure(f.value, f.decimals, f.unit)}`]))
    .join(', ');
}
