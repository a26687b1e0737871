import { believable, type Channel, type TypeFile } from '../aircraft/index.ts';

export type SentenceFault = 'no-checksum' | 'bad-checksum' | 'unknown-sentence' | 'bad-value' | 'bad-unit';
type Transducer = TypeFile['transducers'][number];

/** the unit's own clock, s: it closes a frame where a unit sends it */
const CLOCK = 'UNIT_CLOCK';
/** sentences of one burst arrive together; what comes later belongs to the next frame */
const BURST_S = 0.1;
/** NMEA 0183 allows 82 characters with its line end */
const LONGEST = 80;
const KINDS: Readonly<Record<string, string>> = { '°C': 'C', bar: 'P', inHg: 'P', V: 'U', A: 'I', '%': 'T' };

/** what the unit letter of a transducer makes of a figure in the channel's own unit: factor and what is added */
const UNITS: Readonly<Record<string, Readonly<Record<string, readonly [number, number]>>>> = {
  '°C': { C: [1, 0], K: [1, -273.15], F: [5 / 9, -160 / 9] },
  bar: { B: [1, 0], P: [1e-5, 0] },
  inHg: { B: [29.529_983, 0], P: [29.529_983e-5, 0] },
  V: { V: [1, 0] },
  A: { A: [1, 0] },
  '%': { P: [1, 0] },
};
const AS_IT_IS = [1, 0] as const;
/** names that nobody knows are remembered up to so many */
const MOST_UNKNOWN = 20;

/** XOR of the characters between $ and *, two hexadecimal digits. @source NMEA 0183, sentence structure */
export function checksumOf(body: string): string {
  let sum = 0;
  for (let i = 0; i < body.length; i++) sum ^= body.charCodeAt(i);
  return sum.toString(16).toUpperCase().padStart(2, '0');
}

/** Where the figure of a transducer goes, and what it can be there. */
interface TransducerTarget {
  index: number;
  scale: number;
  unit: string;
  least: number;
  most: number;
}

function targetOf({ channel: id, scale }: Transducer, channels: readonly Channel[]): TransducerTarget {
  const index = channels.findIndex((c) => c.id === id);
  const channel = channels[index];
  const [least, most] = channel ? believable(channel) : [-Infinity, Infinity];
  return { index, scale, unit: channel?.unit ?? '', least, most };
}

/**
 * Reads RPM and XDR sentences into frames: transducers are named by the type file, checksums are verified. A frame is
 * whole when the unit's clock comes; from a unit without one, when a name comes again or the next burst begins.
 */
export class NmeaReader {
  /** the last whole frame, in channel order; NaN where its sentences said nothing */
  readonly values: Float64Array;
  t_s = 0;
  /** names that the type file does not know: what they say is lost */
  readonly unknown = new Set<string>();
  private readonly byName = new Map<string, TransducerTarget>();
  private readonly gathered: Float64Array;
  private readonly seen: Uint8Array;
  private any = false;
  private hasClock = false;
  private beganAt_s = NaN;

  constructor(channels: readonly Channel[], transducers: readonly Transducer[]) {
    this.values = new Float64Array(channels.length).fill(NaN);
    this.gathered = new Float64Array(channels.length).fill(NaN);
    this.seen = new Uint8Array(channels.length);
    for (const t of transducers) this.byName.set(`${t.sentence} ${t.name}`, targetOf(t, channels));
  }

  /** @param arrival_s clock of the listener, for units that send none @returns what is wrong, or whether a frame is now whole */
  read(line: string, arrival_s: number): SentenceFault | 'frame' | 'part' {
    const star = line.lastIndexOf('*');
    if (star < 0) return 'no-checksum';
    const body = line.slice(1, star);
    if (
      checksumOf(body) !==
      line
        .slice(star + 1)
        .trim()
        .toUpperCase()
    )
      return 'bad-checksum';
    const fields = body.split(',');
    const kind = fields[0]!.slice(-3);
    if (kind !== 'XDR' && kind !== 'RPM') return 'unknown-sentence';
    const late = !this.hasClock && this.any && arrival_s - this.beganAt_s > BURST_S;
    const whole = late ? this.close(this.beganAt_s) : false;
    const found = kind === 'RPM' ? this.rpm(fields, arrival_s) : this.xdr(fields, arrival_s);
    return found === 'part' && whole ? 'frame' : found;
  }

  /** $--RPM,source,number,speed,pitch,status */
  private rpm(fields: string[], arrival_s: number): SentenceFault | 'frame' | 'part' {
    const value = numberOf(fields[3]);
    if (value === undefined) return 'bad-value';
    const name = `RPM ${fields[1]}${fields[2]}`;
    return this.take(name, fields[5] === 'A' ? value : NaN, AS_IT_IS, arrival_s) ? 'frame' : 'part';
  }

  /** $--XDR,type,data,unit,name and so on by fours */
  private xdr(fields: string[], arrival_s: number): SentenceFault | 'frame' | 'part' {
    let whole = false;
    for (let i = 1; i + 3 < fields.length; i += 4) {
      const value = numberOf(fields[i + 1]);
      if (value === undefined) return 'bad-value';
      const name = fields[i + 3]!;
      if (name === CLOCK) {
        if (Number.isNaN(value)) return 'bad-value';
        this.hasClock = true;
        whole = this.close(value) || whole;
      } else {
        const unit = this.unitOf(`XDR ${name}`, fields[i + 2]!);
        if (!unit) return 'bad-unit';
        whole = this.take(`XDR ${name}`, value, unit, arrival_s) || whole;
      }
    }
    return whole ? 'frame' : 'part';
  }

  /** What a unit letter does to a figure; a letter that the channel cannot be in is null, none is the figure as it is. */
  private unitOf(key: string, letter: string): readonly [number, number] | null {
    const place = this.byName.get(key);
    return !place || letter === '' ? AS_IT_IS : (UNITS[place.unit]?.[letter] ?? null);
  }

  /** @returns true when this reading belongs to the next frame, and the one before is whole */
  private take(key: string, value: number, [factor, plus]: readonly [number, number], arrival_s: number): boolean {
    const place = this.byName.get(key);
    if (!place) {
      if (this.unknown.size < MOST_UNKNOWN) this.unknown.add(key.slice(4));
      return false;
    }
    const again = !this.hasClock && this.seen[place.index] === 1;
    const whole = again && this.close(arrival_s);
    if (!this.any) this.beganAt_s = arrival_s;
    this.any = true;
    this.seen[place.index] = 1;
    const reading = (value * factor + plus) * place.scale;
    this.gathered[place.index] = reading >= place.least && reading <= place.most ? reading : NaN;
    return whole;
  }

  private close(t_s: number): boolean {
    if (!this.any) return false;
    this.t_s = t_s;
    this.values.set(this.gathered);
    this.gathered.fill(NaN);
    this.seen.fill(0);
    this.any = false;
    return true;
  }
}

/** no sensor reads more, in any unit, and no clock of a unit has run for longer */
const MOST = 1e9;

/** @returns NaN for an empty field, undefined for one that is no number */
function numberOf(field: string | undefined): number | undefined {
  if (field === undefined || field.trim() === '') return NaN;
  const value = Number(field);
  return Math.abs(value) < MOST ? value : undefined;
}

/** One frame as RPM and XDR sentences, each with its checksum and line end; a lost reading is an empty field. */
export function writeNmeaFrame(
  t_s: number,
  values: ArrayLike<number>,
  channels: readonly Channel[],
  transducers: readonly Transducer[],
): string {
  let out = '';
  let xdr = '';
  const sentence = (body: string): void => {
    out += `$${body}*${checksumOf(body)}\r\n`;
  };
  const add = (quad: string): void => {
    if (xdr && `$IIXDR${xdr}${quad}*00`.length > LONGEST) {
      sentence(`IIXDR${xdr}`);
      xdr = '';
    }
    xdr += quad;
  };
  for (const { sentence: kind, name, channel: id, scale } of transducers) {
    const index = channels.findIndex((c) => c.id === id);
    const channel = channels[index]!;
    const value = values[index]! / scale;
    const text = Number.isFinite(value) ? String(Number(value.toFixed(4))) : '';
    if (kind === 'RPM') sentence(`IIRPM,${name[0]},${name.slice(1)},${text},,${text ? 'A' : 'V'}`);
    else add(`,${KINDS[channel.unit] ?? 'G'},${text},,${name}`);
  }
  add(`,G,${t_s.toFixed(3)},S,${CLOCK}`);
  sentence(`IIXDR${xdr}`);
  return out;
}
