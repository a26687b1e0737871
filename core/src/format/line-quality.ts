const WINDOW_S = 10;

/** How good a line has been over the last ten seconds. */
export interface Quality {
  /** frames a second */
  rate_Hz: number;
  /** share of the lines that could not be read */
  bad_share: number;
  /** longest wait between two frames, s */
  gap_s: number;
}

/** Counts frames and bad lines second by second; it is told the time and keeps no clock. */
export class LineQuality {
  private readonly frames = new Uint32Array(WINDOW_S);
  private readonly lines = new Uint32Array(WINDOW_S);
  private readonly bad = new Uint32Array(WINDOW_S);
  private readonly gap = new Float64Array(WINDOW_S);
  private second = -1;
  private lastFrame_s = NaN;

  frame(t_s: number): void {
    const at = this.turn(t_s);
    this.frames[at]!++;
    if (t_s - this.lastFrame_s > this.gap[at]!) this.gap[at] = t_s - this.lastFrame_s;
    this.lastFrame_s = t_s;
  }

  line(t_s: number, readable: boolean): void {
    const at = this.turn(t_s);
    this.lines[at]!++;
    if (!readable) this.bad[at]!++;
  }

  /** A frame that could be read and was of no use, for its time: it counts as lost. */
  refused(t_s: number): void {
    this.bad[this.turn(t_s)]!++;
  }

  /** @returns null before the first line, and when ten seconds went by without one */
  over(t_s: number): Quality | null {
    this.turn(t_s);
    const sum = (column: Uint32Array): number => column.reduce((a, b) => a + b, 0);
    const lines = sum(this.lines);
    if (lines === 0) return null;
    return {
      rate_Hz: sum(this.frames) / WINDOW_S,
      bad_share: sum(this.bad) / lines,
      gap_s: Math.max(...this.gap),
    };
  }

  /** Forgets the seconds that have left the window. */
  private turn(t_s: number): number {
    const now = Math.floor(t_s);
    for (let s = Math.max(this.second + 1, now - WINDOW_S + 1); s <= now; s++) {
      const at = s % WINDOW_S;
      this.frames[at] = this.lines[at] = this.bad[at] = 0;
      this.gap[at] = 0;
    }
    this.second = Math.max(this.second, now);
    return now % WINDOW_S;
  }
}
