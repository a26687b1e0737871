import {
  bandEdge,
  type Channel,
  type Limit,
  type Phase,
  type StartWatch,
  type TypeFile,
  type WatchedType,
} from '@rouse/core/aircraft';
import { roundStep } from '@rouse/core/quantity';
import { limitPhase, type StartSnapshot } from '@rouse/core/watch';
import { minutes } from '../ui/words.ts';
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
    const value = frame[index]!;
    const at = type.startWatches.findIndex((w) => w.starter.channel === id);
    if (at >= 0) return starterRow(type.startWatches[at]!, status?.watch?.starts[at], channel, value);
    const inForce = status?.watch ? limitPhase(type, status.watch, channel) : phase;
    const limits = type.limits.filter((l) => l.channel === id && l.phases.includes(inForce));
    const inside = status?.watch?.room.find((r) => r.channel === id);
    const remark = Number.isNaN(value)
      ? ''
      : inside
        ? `${roundStep(inside.remaining_s, 0.1, 'floor').toFixed(1)} s left`
        : remarkOf({ type, status, channel, value, frame, phase: inForce, limits });
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

function starterRow(spec: StartWatch, start: StartSnapshot | undefined, channel: Channel, value: number): RoomRow {
  const on_s = start?.starterOn_s ?? 0;
  const allowed_s = start?.starterAllowed_s ?? spec.duty.on_s[0]!;
  const left_s = start?.starterLeft_s ?? allowed_s;
  const due_s = start?.restDue_s ?? 0;
  const unknown = Number.isNaN(value);
  return {
    channel: { ...channel, label: 'Starter' },
    value: unknown ? NaN : on_s,
    range: [0, allowed_s * 1.15],
    limits: [
      {
        id: 'starter-duty',
        channel: channel.id,
        phases: ['start'],
        hysteresis: 0,
        bands: [
          { id: 'duty', above: allowed_s, forSeconds: 0, counting: 'continuous', severity: 'warning', action: '' },
        ],
      },
    ],
    figure: unknown ? 'unknown' : minutes(on_s),
    unit: unknown ? '' : on_s > 0 ? 'on' : 'off',
    remark: unknown
      ? ''
      : on_s > 0
        ? `${minutes(left_s)} left`
        : due_s > 0
          ? `rest ${minutes(Math.ceil(due_s))}`
          : `${allowed_s} s allowed`,
    near: !unknown && (on_s > 0 ? left_s < Math.min(8, allowed_s / 3) : due_s > 0),
  };
}

interface Remarked {
  type: WatchedType;
  status: LiveStatus | null;
  channel: Channel;
  value: number;
  frame: Float64Array;
  phase: Phase;
  limits: Limit[];
}

/** The pressure of the same oil as a temperature, where the strip has no row of its own for it. */
function pressureBeside(type: TypeFile, id: string): { index: number; decimals: number; unit: string } | null {
  if (!id.endsWith('.temperature')) return null;
  const index = type.channels.findIndex((c) => c.id === id.replace(/temperature$/, 'pressure'));
  const channel = type.channels[index];
  return channel && !type.room.includes(channel.id) ? { index, decimals: channel.decimals, unit: channel.unit } : null;
}

/** A remark that begins with "!" tints its row. */
function remarkOf(row: Remarked): string {
  const { type, status, channel, value, frame, phase, limits } = row;
  const { id } = channel;
  const pressure = pressureBeside(type, id);
  if (pressure) {
    const now = frame[pressure.index]!;
    return Number.isNaN(now) ? '' : `${now.toFixed(pressure.decimals)} ${pressure.unit}`;
  }
  const own = type.startWatches.findIndex((w) => Object.values<string | undefined>(w.channels).includes(id));
  const going = status?.watch?.starts.findIndex((s) => s.phase === 'start') ?? -1;
  const shared = type.startWatches.filter((w) => Object.values<string | undefined>(w.channels).includes(id)).length > 1;
  const at = shared ? going : own;
  if (at < 0) return '';
  const spec = type.startWatches[at]!;
  const start = status?.watch?.starts[at];
  return spec.kind === 'turbine' && id === spec.channels.temperature
    ? temperatureRemark(start, value, phase, limits)
    : phase === 'start'
      ? startRemark(spec, start, id, value, status, limits)
      : '';
}

function temperatureRemark(start: StartSnapshot | undefined, value: number, phase: Phase, limits: Limit[]): string {
  const edge = limits[0] ? bandEdge(limits[0].bands[0]!) : NaN;
  if (start?.doubt && phase === 'start') return '!may be stuck';
  const in_s = start && start.rate_K_s > 5 && phase === 'start' ? (edge - value) / start.rate_K_s : NaN;
  if (in_s >= 0 && in_s < WARN_BEFORE_S) return `!band in ${roundStep(in_s, 0.1, 'floor').toFixed(1)} s`;
  return Number.isFinite(edge) ? `${(edge - value).toFixed(0)} to ${edge}` : '';
}

function startRemark(
  spec: StartWatch,
  start: StartSnapshot | undefined,
  id: string,
  value: number,
  status: LiveStatus | null,
  limits: Limit[],
): string {
  const { speed, volts } = spec.channels;
  const milestone = (name: string) => start?.milestones.find((m) => m.id === name);
  if (id === speed) {
    const rate = start?.speedRate_pct_s ?? 0;
    return rate > 0.3
      ? `${spec.idle_pct[0]} in ${Math.max(0, (spec.idle_pct[0] - value) / rate).toFixed(0)} s`
      : `idle ${spec.idle_pct[0]}`;
  }
  if (id === spec.channels.oilPressure) {
    const oil = milestone('oil');
    if (oil?.met) return `${spec.oilFirst_bar} bar met`;
    return oil?.due_s && status
      ? `due in ${Math.max(0, oil.due_s - status.t_s).toFixed(0)} s`
      : spec.kind === 'turbine'
        ? 'after light-off'
        : 'after firing';
  }
  if (spec.kind === 'turbine' && id === spec.channels.rotor && spec.rotorMovingBy_pct !== undefined)
    return milestone('rotor')?.met ? 'turning' : `by ${spec.rotorMovingBy_pct} % Ng`;
  if (id === volts && limits[0]) return `${(value - bandEdge(limits[0].bands[0]!)).toFixed(1)} to stop`;
  return '';
}
