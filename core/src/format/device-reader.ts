import type { TypeFile } from '../aircraft/index.ts';
import { DeviceLineReader, type LineFault } from './device-line.ts';
import { NmeaReader, type SentenceFault } from './nmea.ts';

export type DeviceFormat = 'json' | 'nmea';

/** Reads the lines of an engine data unit, whichever of the two open formats it speaks. */
export class DeviceReader {
  /** the last whole frame, in channel order */
  readonly values: Float64Array;
  /** its time by the unit's own clock, or by the listener's where the unit has none */
  t_s = 0;
  format: DeviceFormat | null = null;
  private readonly json: DeviceLineReader;
  private readonly nmea: NmeaReader;

  constructor({ channels, transducers }: TypeFile) {
    this.json = new DeviceLineReader(channels);
    this.nmea = new NmeaReader(channels, transducers);
    this.values = new Float64Array(channels.length).fill(NaN);
  }

  /** names that the unit sends and the type does not know */
  get unknown(): string[] {
    return [...(this.format === 'nmea' ? this.nmea : this.json).unknown];
  }

  /** @returns what is wrong with the line, or whether a frame is now whole; a bad line changes nothing */
  read(line: string, arrival_s: number): LineFault | SentenceFault | 'frame' | 'part' {
    const sentence = line.startsWith('$') || line.startsWith('!');
    const found = sentence ? this.nmea.read(line, arrival_s) : (this.json.read(line) ?? 'frame');
    if (found !== 'frame') return found;
    const reader = sentence ? this.nmea : this.json;
    this.format = sentence ? 'nmea' : 'json';
    this.t_s = reader.t_s;
    this.values.set(reader.values);
    return 'frame';
  }
}
