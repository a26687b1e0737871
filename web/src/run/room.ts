import { bandEdge, type Channel, type Limit, type Phase, type WatchedType } from '@rouse/core/aircraft';
import { roundStep } from '@rouse/core/quantity';
import { minutes } from '../parts/words.ts';
import type { LiveStatus } from './run-slice.ts';

export interface RoomRow {
  channel: Channel;
  value: number;
  /** the figure and its unit as shown */
  figure: string;
  unit: string;
  remark: string;
  /** inside a time-limited band, or about to be */
  near: boolean;
  limits: Limit[];
  range: readonly [number, number];
}

const WARN_BEFORE_S = 4;

/** What the strip at the right says of each channel: value, limits in force, and how much room there is. */
export function roomRows(type: WatchedType, status: LiveStatus | null, frame: Float64Array, phase: Phase): RoomRow[] {
  return type.room.map((id) => {
    const index = type.channels.findIndex((c) => c.id === id);
    const channel = type.channels[index]!;
    const spec = type.startWatches[0];
    const value = frame[index]!;
    const limits = type.limits.filter((l) => l.channel === id && l.phases.includes(phase));
    if (id === spec.channels.starterAmps) return starterRow(type, status, channel, value);
    const inside = status?.watch?.room.find((r) => r.channel === id);
    const remark = Number.isNaN(value)
      ? ''
      : inside
        ? `${roundStep(inside.remaining_s, 0.1, 'floor').toFixed(1)} s left`
        : remarkOf(type, status, id, value, frame, phase, limits);
    return {
      channel,
      value,
      limits,
      range: channel.range,
      figure: Number.isNaN(value) ? 'unknown' : value.toFixed(channel.decimals),
      unit: Number.isNaN(value) ? '' : channel.unit,
      remark: remark.replace(/^!/, ''),
      near: !Number.isNaN(value) && (inside !== undefined || remark.startsWith('!')),
    };
  });
}

function starterRow(type: WatchedType, status: LiveStatus | null, channel: Channel, value: number): RoomRow {
  const { starterDuty } = type.startWatches[0];
  const on_s = status?.watch?.start.starterOn_s ?? 0;
  const left_s = status?.watch?.start.starterLeft_s ?? starterDuty.on1_s;
  const unknown = Number.isNaN(value);
  return {
    channel: { ...channel, label: 'Starter' },
    value: unknown ? NaN : on_s,
    range: [0, starterDuty.on1_s * 1.15],
    limits: [
      {
        id: 'starter-duty',
        channel: channel.id,
        phases: ['start'],
        hysteresis: 0,
        bands: [
          {
            id: 'duty',
            above: starterDuty.on1_s,
            forSeconds: 0,
            counting: 'continuous',
            severity: 'warning',
            action: '',
          },
        ],
      },
    ],
    figure: unknown ? 'unknown' : minutes(on_s),
    unit: unknown ? '' : on_s > 0 ? 'on' : 'off',
    remark: unknown ? '' : on_s > 0 ? `${minutes(left_s)} left` : `${starterDuty.on1_s} s allowed`,
    near: !unknown && left_s < 8,
  };
}

/** A remark that begins with "!" tints its row. */
function remarkOf(
  type: WatchedType,
  status: LiveStatus | null,
  id: string,
  value: number,
  frame: Float64Array,
  phase: Phase,
  limits: Limit[],
): string {
  const spec = type.startWatches[0];
  const start = status?.watch?.start;
  const { temperature, speed, oilPressure, rotor, volts } = spec.channels;
  const milestone = (name: string) => start?.milestones.find((m) => m.id === name);
  if (id === temperature) {
    const edge = limits[0] ? bandEdge(limits[0].bands[0]!) : NaN;
    const in_s = start && start.rate_K_s > 5 && phase === 'start' ? (edge - value) / start.rate_K_s : NaN;
    if (in_s >= 0 && in_s < WARN_BEFORE_S) return `!band in ${roundStep(in_s, 0.1, 'floor').toFixed(1)} s`;
    return Number.isFinite(edge) ? `${(edge - value).toFixed(0)} to ${edge}` : '';
  }
  if (id === speed && phase === 'start') {
    const rate = start?.speedRate_pct_s ?? 0;
    return rate > 0.3
      ? `${spec.idle_pct[0]} in ${Math.max(0, (spec.idle_pct[0] - value) / rate).toFixed(0)} s`
      : `idle ${spec.idle_pct[0]}`;
  }
  if (id === oilPressure && phase === 'start') {
    const oil = milestone('oil');
    if (oil?.met) return `${spec.oilFirst_bar} bar met`;
    return oil?.due_s && status ? `due in ${Math.max(0, oil.due_s - status.t_s).toFixed(0)} s` : 'after light-off';
  }
  if (id === rotor && phase === 'start')
    return milestone('rotor')?.met ? 'turning' : `by ${spec.rotorMovingBy_pct} % Ng`;
  if (id === volts && phase === 'start' && limits[0])
    return `${(value - bandEdge(limits[0].bands[0]!)).toFixed(1)} to stop`;
  if (id === 'gearbox.oil.temperature') {
    const pressure = frame[type.channels.findIndex((c) => c.id === 'gearbox.oil.pressure')] ?? NaN;
    return Number.isNaN(pressure) ? '' : `${pressure.toFixed(1)} bar`;
  }
  return '';
}
