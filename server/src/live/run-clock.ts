import { readFileSync, writeFileSync, renameSync } from 'node:fs';
import path from 'node:path';
import type { Clock } from '../clock.ts';

/** The clock of a run: it goes forward only, whatever is done to the wall clock. */
export class RunClock {
  private readonly clock: Clock;
  /** monotonic time of the run's second zero, ms */
  zero_ms: number;
  /** how far a simulated aircraft that was hurried is ahead, ms */
  ahead_ms = 0;
  private least_ms = -Infinity;

  /** @param elapsed_s run clock now */
  constructor(clock: Clock, elapsed_s = 0) {
    this.clock = clock;
    this.zero_ms = clock.monotonic() - elapsed_s * 1000;
  }

  now_s(): number {
    return (this.clock.monotonic() + this.ahead_ms - this.zero_ms) / 1000;
  }

  /** A simulated aircraft that is hurried gives the time: the run is where its last frame was, and never goes back. */
  follow(at_ms: number): void {
    this.ahead_ms = Math.max(at_ms, this.least_ms) - this.clock.monotonic();
    this.least_ms = Math.max(at_ms, this.least_ms);
  }

  /** What is recorded lies behind now: a run that was hurried goes on from its own clock. */
  notBefore(t_s: number): void {
    const behind_s = t_s - this.now_s();
    if (behind_s > 0) this.ahead_ms += behind_s * 1000;
  }
}

/**
 * When open runs began by the clock of this machine, so that a server that takes one up again knows how long it was away
 * without asking the wall clock. After the machine itself was restarted the wall clock is all there is.
 */
export class RunZeros {
  private readonly file: string;
  private readonly boot: string;
  private zeros: Record<string, number> = {};

  constructor(dir: string) {
    this.file = path.join(dir, 'run-clocks.json');
    this.boot = bootId();
    try {
      const kept = JSON.parse(readFileSync(this.file, 'utf8')) as { boot: string; zeros: Record<string, number> };
      if (kept.boot === this.boot) this.zeros = kept.zeros;
    } catch {
      // none was written yet, or it was cut off: the wall clock has to do
    }
  }

  of(runId: string): number | null {
    return this.zeros[runId] ?? null;
  }

  put(runId: string, zero_ms: number): void {
    this.zeros = { ...this.zeros, [runId]: zero_ms };
    this.write();
  }

  forget(runId: string): void {
    const { [runId]: _gone, ...rest } = this.zeros;
    this.zeros = rest;
    this.write();
  }

  private write(): void {
    writeFileSync(`${this.file}.new`, JSON.stringify({ boot: this.boot, zeros: this.zeros }));
    renameSync(`${this.file}.new`, this.file);
  }
}

function bootId(): string {
  try {
    return readFileSync('/proc/sys/kernel/random/boot_id', 'utf8').trim();
  } catch {
    return 'unknown';
  }
}
