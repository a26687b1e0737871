import type { StandInPreset, WatchedType } from '../../aircraft/index.ts';
import { Watch, type WatchEvent } from '../../watch/index.ts';
import { type BadDays, type Deal, onFirst } from './deal.ts';
import { DealtStart, startItemOf } from './dealt-start.ts';

/** What becomes of a start that nobody stops, and when that could be told. */
export interface StartTruth {
  /** it must be stopped */
  bad: boolean;
  /** why, in the words of the watch */
  words: string;
  /** when it first differs from the same start without what is wrong, by more than its sensors' noise; null when never */
  tellable_s: number | null;
  /** when the watch stops it, or its first limit is passed; null where neither */
  late_s: number | null;
  /** the hottest that it becomes, whatever its probe says, °C; null where no temperature is watched */
  peak_C: number | null;
}

/** a start has shown what it is by then, s */
const WHOLE_S = 55;
/** differences of readings that are no noise, by the unit of their channel */
const TELLING: Readonly<Record<string, number>> = { '%': 0.6, '°C': 12, V: 0.4, bar: 0.25, A: 25, inHg: 0.6 };
/** a difference has to last this many frames */
const LASTS_FRAMES = 10;

/** Flies a start to its end twice, as it is and as it would be if nothing were wrong. */
export function truthOf(type: WatchedType, deal: Deal): StartTruth {
  const asIs = new DealtStart(type, deal);
  const healthy = deal.wrong === null ? null : new DealtStart(type, { ...deal, ...deal.healthy, faults: [] });
  const channels = watchedChannels(type);
  const seen = new Seen(type);
  let tellable_s: number | null = null;
  let differs = 0;
  let peak = -Infinity;
  while (asIs.t_s < WHOLE_S && !seen.done) {
    const frame = asIs.tick();
    seen.step(asIs.t_s, frame);
    if (asIs.hot_C > peak) peak = asIs.hot_C;
    if (!healthy || tellable_s !== null) continue;
    const other = healthy.tick();
    differs = channels.some(({ i, by }) => isOther(frame[i]!, other[i]!, by)) ? differs + 1 : 0;
    if (differs >= LASTS_FRAMES) tellable_s = asIs.t_s;
  }
  const { bad } = seen;
  return {
    bad,
    words: seen.words,
    tellable_s: bad ? tellable_s : null,
    late_s: bad ? seen.late_s : null,
    peak_C: Number.isFinite(peak) ? peak : null,
  };
}

/** What the watch sees of a start that nobody stops. */
class Seen {
  done = false;
  private stop: Extract<WatchEvent, { kind: 'abort' }> | null = null;
  private harmed: { limit: string; t_s: number } | null = null;
  private readonly watch: Watch;

  constructor(type: WatchedType) {
    this.watch = new Watch(type, {}, (event) => {
      if (event.kind === 'abort') this.stop ??= event;
      if (event.kind === 'start-done') this.done = true;
      if (event.kind === 'exceedance' && event.exceedance.severity === 'warning' && event.exceedance.expired)
        this.harmed ??= { limit: event.exceedance.limit, t_s: event.exceedance.start_s };
    });
  }

  step(t_s: number, frame: Float64Array): void {
    this.watch.step(t_s, frame);
  }

  get bad(): boolean {
    return this.stop !== null || this.harmed !== null || !this.done;
  }

  get late_s(): number {
    return this.stop?.t_s ?? this.harmed?.t_s ?? WHOLE_S;
  }

  get words(): string {
    if (this.stop) return this.stop.text;
    if (this.harmed) return this.harmed.limit;
    return this.done ? 'It comes to idle as it should' : 'It does not come to idle';
  }
}

/** The conditions of a type that spoil a start on an ordinary day; each is tried once. */
export function badDaysOf(type: WatchedType): BadDays {
  const [mild] = type.standIn;
  return type.standIn.filter((preset: StandInPreset) => {
    if (preset === mild) return false;
    const deal: Deal = { type: type.id, seed: 1, wrong: null, init: preset.init, env: preset.env, faults: onFirst(type, preset), healthy: mild! }; // oxfmt-ignore
    return truthOf(type, deal).bad;
  });
}

/** One that is lost differs from one that is there; two that are lost tell nothing. */
const isOther = (a: number, b: number, by: number): boolean => !(Math.abs(a - b) <= by) && !(Number.isNaN(a) && Number.isNaN(b)); // oxfmt-ignore

function watchedChannels(type: WatchedType): { i: number; by: number }[] {
  const start = startItemOf(type);
  const spec = type.startWatches.find((w) => start.kind === 'watch' && w.id === start.watch) ?? type.startWatches.find((w) => w.engine !== 0)!; // oxfmt-ignore
  const ids = new Set(Object.values(spec.channels));
  return type.channels.flatMap((c, i) => {
    const by = TELLING[c.unit];
    return ids.has(c.id) && by !== undefined ? [{ i, by }] : [];
  });
}
