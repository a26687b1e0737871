import type { LedgerSpec, TypeFile } from '../aircraft/index.ts';
import { RatingLedger } from './ledger.ts';
import type { LedgerEventType, RatingBalance } from './model.ts';

/** samples further apart than this are a gap, s */
const MAX_GAP_S = 2;
/** A rating of level n is from n + 1 to n + 2; below 1 none is in use. */
const FIRST_LEVEL = 1;

export interface RatingEvent {
  kind: 'rating';
  t_s: number;
  event: LedgerEventType;
  ledger: LedgerSpec['id'];
  /** number of the engine, as the type counts them */
  engine: number;
  /** null for a gap and for what passes the maximum */
  rating: string | null;
  label: string;
}

/** One rating of one engine as it stands now. */
export interface RatingNow {
  ledger: LedgerSpec['id'];
  engine: number;
  rating: string;
  label: string;
  inUse: boolean;
  booked_s: number;
  /** how many uses it has cost */
  uses: number;
  remaining_s: number;
  /** null where any number is permitted */
  periods_remaining: number | null;
  maintenance: boolean;
  inspection: string | null;
  /** while data, or one of the readings, was lost nobody has seen whether it was used, s */
  unseen_s: number;
}

interface Book {
  spec: LedgerSpec;
  engine: number;
  ledger: RatingLedger;
  /** columns and edges of what it reads, in the order of the measures */
  columns: readonly number[];
  edges: readonly (readonly number[])[];
  /** the torque of the other engines: no take-off rating is counted while one of them is lost */
  others: readonly number[];
  /** column of the engine's own speed, and below what it is stopped, starts or stops: what its gauges show there is no use of power */
  speed: { column: number; idlesFrom_pct: number } | null;
  last_s: number;
  /** one of its readings was lost so long: a higher rating may have been used */
  doubt_s: number;
}

/** of the lower end of its idle: an engine that is slower is stopped, starts or stops */
const IDLES_FROM = 0.9;
/** Torque below which an engine gives nothing, %. */
const LOST_pct = 3;

/**
 * The rating ledgers of a running aircraft, one an engine: fed with frames, it says what is used and what is left. Several
 * readings of an engine become one level, the highest that any of them has; the ledger books that.
 */
export class RatingBooks {
  private readonly books: Book[];
  private readonly onEvent: (event: RatingEvent) => void;

  /** @param chart_inHg continuous and take-off limit of the day, for a type whose chart gives them; null where unknown */
  constructor(
    type: TypeFile,
    chart_inHg: readonly [number, number] | null,
    onEvent: (event: RatingEvent) => void = () => {},
  ) {
    this.onEvent = onEvent;
    const column = (id: string): number => type.channels.findIndex((c) => c.id === id);
    this.books = (type.ratings?.ledgers ?? []).flatMap((spec) =>
      type.engines.flatMap(({ id: engine }, i): Book[] => {
        const measures = spec.measures.flatMap((m) => {
          const edges = m.edges ?? chart_inHg;
          return edges ? [{ column: column(m.channels[i]!), edges }] : [];
        });
        if (measures.length === 0) return [];
        const others = spec.id === 'take-off' ? spec.measures[0]!.channels.filter((_, k) => k !== i) : [];
        return [
          {
            spec,
            engine,
            ledger: this.ledgerOf(spec, engine),
            columns: measures.map((m) => m.column),
            edges: measures.map((m) => m.edges),
            others: others.map(column),
            speed: speedOf(type, engine),
            last_s: NaN,
            doubt_s: 0,
          },
        ];
      }),
    );
  }

  /** One frame. Time goes forward; a reading that is lost is a hole, and is booked when data is back. */
  step(t_s: number, values: ArrayLike<number>): void {
    for (let i = 0; i < this.books.length; i++) {
      const book = this.books[i]!;
      const level = this.levelOf(book, values);
      if (Number.isNaN(level) || t_s <= book.last_s) continue;
      if (Number.isNaN(book.last_s)) book.ledger.start(t_s, level);
      else if (t_s - book.last_s > MAX_GAP_S) book.ledger.gap(t_s, level);
      else book.ledger.line(t_s, level);
      if (t_s - book.last_s <= MAX_GAP_S && this.isInDoubt(book, values, level)) book.doubt_s += t_s - book.last_s;
      book.last_s = t_s;
    }
  }

  now(): RatingNow[] {
    return this.books.flatMap(({ spec, engine, ledger, doubt_s }) => {
      const { inUse } = ledger;
      return ledger.balances().map((balance: RatingBalance): RatingNow => {
        const { label, inspection } = spec.ratings.find((r) => r.id === balance.id)!;
        return {
          ledger: spec.id,
          engine,
          rating: balance.id,
          label,
          inUse: inUse === balance.id,
          booked_s: balance.total_booked_s,
          uses: balance.periods_charged,
          remaining_s: balance.remaining_s,
          periods_remaining: balance.periods_remaining,
          maintenance: balance.maintenance_required,
          inspection: inspection ?? null,
          unseen_s: ledger.blindGap_s + doubt_s,
        };
      });
    });
  }

  private ledgerOf(spec: LedgerSpec, engine: number): RatingLedger {
    return new RatingLedger(
      {
        ratings: spec.ratings.map(({ id, period_s, max_periods, min_charge_s, maintenance }, i) => ({
          id,
          lower: FIRST_LEVEL + i,
          period_s,
          max_periods,
          min_charge_s,
          maintenance,
        })),
        absolute_max: FIRST_LEVEL + spec.ratings.length,
        hysteresis: spec.hysteresis,
        rearm_s: spec.rearm_s,
        max_gap_s: MAX_GAP_S,
        higher_counts_in_lower: spec.id === 'take-off',
      },
      (event, t_s, rating) => {
        const label = spec.ratings.find((r) => r.id === rating)?.label ?? spec.label;
        this.onEvent({ kind: 'rating', t_s, event, ledger: spec.id, engine, rating, label });
      },
    );
  }

  /** Whether a reading is lost that could tell of a higher rating than the others do; an engine below its idle uses none. */
  private isInDoubt({ columns, speed, spec }: Book, values: ArrayLike<number>, level: number): boolean {
    if (level > FIRST_LEVEL + spec.ratings.length) return false;
    if (speed && values[speed.column]! < speed.idlesFrom_pct) return false;
    for (let k = 0; k < columns.length; k++) if (Number.isNaN(values[columns[k]!]!)) return true;
    return false;
  }

  /** The highest level that any reading has; NaN when all are lost. */
  private levelOf({ columns, edges, others, speed, spec }: Book, values: ArrayLike<number>): number {
    let level = NaN;
    for (let k = 0; k < columns.length; k++) {
      const l = levelAt(values[columns[k]!]!, edges[k]!);
      if (!(l <= level)) level = Number.isNaN(l) ? level : l;
    }
    const below = FIRST_LEVEL - spec.hysteresis;
    if (speed && values[speed.column]! < speed.idlesFrom_pct) return Math.min(level, below);
    for (let k = 0; k < others.length; k++) if (values[others[k]!]! < LOST_pct) return Math.min(level, below);
    return level;
  }
}

/** @returns 1 at the first edge, 2 at the second, straight between and beyond */
function levelAt(value: number, edges: readonly number[]): number {
  const n = edges.length;
  if (value <= edges[0]!) return value / edges[0]!;
  for (let i = 1; i < n; i++) if (value <= edges[i]!) return i + (value - edges[i - 1]!) / (edges[i]! - edges[i - 1]!);
  return n + (value - edges[n - 1]!) / (edges[n - 1]! - edges[n - 2]!);
}

function speedOf(type: TypeFile, engine: number): Book['speed'] {
  const watch = type.startWatches.find((w) => w.engine === engine);
  return watch
    ? {
        column: type.channels.findIndex((c) => c.id === watch.channels.speed),
        idlesFrom_pct: IDLES_FROM * watch.idle_pct[0],
      }
    : null;
}
