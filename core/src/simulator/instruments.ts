import { type Channel, Sensed, type TypeFile } from '../aircraft/index.ts';
import type { Controls } from './inputs.ts';
import { readSignal } from './signals.ts';
import type { Simulator } from './simulator.ts';

const SELECTOR_POSITION = { OFF: 0, IDLE: 1, FLY: 2 } as const;

/** Reads the simulated aircraft as an engine data unit would: one value per channel of the type, captions included. */
export class Instruments {
  private readonly channels: readonly Channel[];
  private readonly captionIndex: number;
  private readonly captions: { bit: number; lit: Sensed }[];
  readonly values: Float64Array;

  constructor(type: TypeFile) {
    this.channels = type.channels;
    this.captionIndex = type.channels.findIndex((c) => c.id === type.captions.channel);
    this.captions = type.captions.list.map((c) => ({ bit: c.bit, lit: new Sensed(c.lit, type.channels) }));
    this.values = new Float64Array(type.channels.length);
  }

  /** Fills `values` with what the sensors read at the last tick. */
  read(simulator: Simulator, controls: Controls): Float64Array {
    const values = this.values;
    for (let i = 0; i < this.channels.length; i++) {
      if (i === this.captionIndex) continue;
      const { simulated } = this.channels[i]!;
      if (!simulated) {
        values[i] = NaN;
        continue;
      }
      const { signal, scale } = simulated;
      values[i] =
        scale *
        (signal.startsWith('control.') ? readControl(controls, signal.slice(8)) : readNumber(simulator, signal));
    }
    let lit = 0;
    for (const caption of this.captions) {
      if (caption.lit.update(simulator.ticks / 50, values) === true) lit += 2 ** caption.bit;
    }
    values[this.captionIndex] = lit;
    return values;
  }
}

function readNumber(simulator: Simulator, signal: string): number {
  if (signal === 'env.oat_c') return simulator.env.oat_c;
  const value = readSignal(simulator, signal);
  if (typeof value !== 'number') throw new RangeError(`the simulator has no number named ${signal}`);
  return value;
}

function readControl(controls: Controls, name: string): number {
  const [first, second] = name.split('.');
  if (first === 'load') return controls.loads[second ?? ''] ? 1 : 0;
  const engine = /^e(\d+)$/.exec(first ?? '');
  if (engine) {
    const lever = controls.engines[Number(engine[1]) - 1];
    if (!lever) throw new RangeError(`the simulated cockpit has no engine ${engine[1]}`);
    return second === 'mode'
      ? SELECTOR_POSITION[lever.mode]
      : Number((lever as unknown as Record<string, number>)[second ?? '']);
  }
  const value = (controls as unknown as Record<string, unknown>)[name];
  if (typeof value !== 'number') throw new RangeError(`the simulated cockpit has no control named ${name}`);
  return value;
}
