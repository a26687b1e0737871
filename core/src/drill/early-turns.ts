import type { DrillNote } from './flown-drill.ts';

/** a hand is quicker than the sensor of what it did before: what is refused is asked again for so long */
const SENSED_WITHIN_S = 0.3;

/** Items that a hand has begun and the session refused, as long as a sensor may still come after the hand. */
export class EarlyTurns {
  private waiting: DrillNote[] = [];

  /** @param note what is noted of it when it stays refused */
  add(note: DrillNote): void {
    this.waiting.push(note);
  }

  /**
   * Asks again for each that waits.
   * @param turn whether the item is begun, or settled, by now
   * @returns those that stay refused, and wait no longer
   */
  again(t_s: number, turn: (item: string) => boolean): readonly DrillNote[] {
    if (this.waiting.length === 0) return this.waiting;
    const refused = this.waiting.filter((note) => !turn(note.of));
    this.waiting = refused.filter((note) => t_s - note.t_s < SENSED_WITHIN_S);
    return refused.filter((note) => t_s - note.t_s >= SENSED_WITHIN_S);
  }
}
