import { type Channel, Sensed, type TypeFile } from '../aircraft/index.ts';
import type { SimulatedAircraft } from './aircraft.ts';
import type { NormalSource } from './random.ts';

/** how the signals of switches begin that nothing in the physics hangs on */
export const PANEL = 'panel.';

/** Reads the simulated aircraft as an engine data unit would: one value per channel of the type, captions included. */
export class Instruments {
  private readonly channels: readonly Channel[];
  /** whether the signal of a channel is a switch of the panel */
  private readonly onPanel: readonly boolean[];
  private readonly captionIndex: number;
  private readonly captions: { bit: number; lit: Sensed }[];
  private readonly noise: NormalSource;

  /** @param noise of the gauges whose channel has its own; plants with noisy sensors bring theirs */
  constructor(type: TypeFile, noise: NormalSource) {
    this.channels = type.channels;
    this.onPanel = type.channels.map((c) => c.simulated?.signal.startsWith(PANEL) ?? false);
    this.noise = noise;
    this.captionIndex = type.channels.findIndex((c) => c.id === type.captions.channel);
    this.captions = type.captions.list.map((c) => ({ bit: c.bit, lit: new Sensed(c.lit, type.channels) }));
  }

  /** Fills `values` with what the sensors read at the last tick. @throws RangeError for a channel whose signal the aircraft does not have */
  read(aircraft: SimulatedAircraft, panel: ReadonlyMap<string, number>, values: Float64Array): void {
    for (let i = 0; i < this.channels.length; i++) {
      if (i === this.captionIndex) continue;
      const { simulated, range } = this.channels[i]!;
      if (!simulated) {
        values[i] = NaN;
        continue;
      }
      const { signal, scale, noise } = simulated;
      const value = this.onPanel[i] ? (panel.get(signal) ?? 0) : aircraft.signal(signal);
      if (typeof value !== 'number') throw new RangeError(`the simulator has no number named ${signal}`);
      // a gauge stands at its stop; only a noisy one could be pushed past it
      values[i] = noise ? Math.max(range[0], scale * value + noise * this.noise.normal()) : scale * value;
    }
    let lit = 0;
    for (const caption of this.captions) {
      if (caption.lit.update(aircraft.t_s, values) === true) lit += 2 ** caption.bit;
    }
    values[this.captionIndex] = lit;
  }
}
