import type { LineFaults } from '@rouse/core/contract';

/** A line that loses, delays, repeats and corrupts what it carries, as asked. Chance and time are handed in. */
export class BadLine {
  faults: LineFaults = { drop: 0, repeat: 0, corrupt: 0, delay_ms: 0 };
  private readonly send: (line: string) => void;
  private readonly chance: () => number;
  private readonly later: (act: () => void, ms: number) => void;

  constructor(send: (line: string) => void, chance: () => number, later: (act: () => void, ms: number) => void) {
    this.send = send;
    this.chance = chance;
    this.later = later;
  }

  carry(line: string): void {
    const { drop, repeat, corrupt, delay_ms } = this.faults;
    if (drop > 0 && this.chance() < drop) return;
    const sent = corrupt > 0 && this.chance() < corrupt ? this.spoil(line) : line;
    const times = repeat > 0 && this.chance() < repeat ? 2 : 1;
    for (let i = 0; i < times; i++) {
      if (delay_ms > 0) this.later(() => this.send(sent), delay_ms);
      else this.send(sent);
    }
  }

  /** One character becomes another; the line end stays. */
  private spoil(line: string): string {
    const at = Math.floor(this.chance() * (line.trimEnd().length - 1)) + 1;
    const wrong = String.fromCharCode(33 + Math.floor(this.chance() * 94));
    return line.slice(0, at) + wrong + line.slice(at + 1);
  }
}
