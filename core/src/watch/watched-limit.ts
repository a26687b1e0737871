import { bandEdge, type Limit, type LimitBand, type TypeFile } from '../aircraft/index.ts';
import { roundStep } from '../quantity/index.ts';
import { BandMonitor, type BandTable, type Excursion } from './band-monitor.ts';
import type { Exceedance, WatchEvent } from './events.ts';

/** One limit of the type file with its monitor, and how what happens to it is said. */
export class WatchedLimit {
  readonly limit: Limit;
  /** column of its channel */
  readonly index: number;
  readonly monitor: BandMonitor;
  private readonly label: string;
  private readonly unit: string;

  /** @param onEdge called at each edge with the band of the type file */
  constructor(
    type: TypeFile,
    limit: Limit,
    onEdge: (
      watched: WatchedLimit,
      edge: 'ENTER' | 'EXIT' | 'EXPIRED',
      band: LimitBand,
      t_s: number,
      excursion: Excursion,
    ) => void,
  ) {
    this.limit = limit;
    this.index = type.channels.findIndex((c) => c.id === limit.channel);
    const channel = type.channels[this.index]!;
    this.label = channel.label;
    this.unit = channel.unit;
    this.monitor = new BandMonitor(tableOf(limit), (edge, rule, t_s, excursion) =>
      onEdge(
        this,
        edge,
        limit.bands.find((b) => b.id === rule.id)!,
        t_s,
        excursion,
      ),
    );
  }

  /** The cue of an entry into a band with time allowed; null where none is, or where entering is nothing to speak of. */
  entryCue(band: LimitBand, t_s: number, excursion: Excursion): WatchEvent | null {
    if (band.forSeconds === 0 || excursion.expiredAt_s !== null || band.severity === 'note') return null;
    const left = roundStep(this.monitor.usage(band.id).remaining_s, 1, 'floor');
    const where = `${this.label} ${sideOf(band)} ${bandEdge(band)}`;
    const code = `${this.limit.id}/${band.id}`;
    return {
      kind: 'cue',
      t_s,
      code,
      severity: 'caution',
      text: `${where} ${this.unit}: ${left} s left. ${band.action}`,
      say: `${where}.`,
    };
  }

  /** "above 835 °C for more than 2 s", or "above 900 °C, never allowed". */
  expiryWords(band: LimitBand): string {
    const edge = `${sideOf(band)} ${bandEdge(band)} ${this.unit}`;
    return band.forSeconds === 0 ? `${edge}, never allowed` : `${edge} for more than ${band.forSeconds} s`;
  }

  expiryCue(band: LimitBand, t_s: number): WatchEvent {
    return {
      kind: 'cue',
      t_s,
      code: `${this.limit.id}/${band.id}/expired`,
      severity: band.severity === 'warning' ? 'warning' : 'caution',
      text: `${this.label} ${this.expiryWords(band)}. ${band.action}`,
      say: `${this.label}. ${band.action}`,
    };
  }

  exceedanceOf(band: LimitBand, excursion: Excursion): Exceedance {
    return {
      limit: this.limit.id,
      channel: this.limit.channel,
      band: band.id,
      edge: bandEdge(band),
      severity: band.severity,
      start_s: excursion.start_s,
      end_s: excursion.end_s,
      duration_s: excursion.duration_s,
      peak: excursion.peak,
      peakAt_s: excursion.peakAt_s,
      area: excursion.area,
      allowed_s: band.forSeconds,
      expired: excursion.expiredAt_s !== null,
    };
  }
}

const sideOf = (band: LimitBand): string => ('above' in band ? 'above' : 'below');

function tableOf(limit: Limit): BandTable {
  return {
    direction: 'above' in limit.bands[0]! ? 'high' : 'low',
    hysteresis: limit.hysteresis,
    bands: limit.bands.map((b) => ({
      id: b.id,
      limit: bandEdge(b),
      mode: b.counting,
      allow_s: b.forSeconds,
      inclusive: b.inclusive,
    })),
  };
}
