/** a turn counts when the value has come back by so much; noise does not */
const TURN_K = 25;
const TURNS = 5;
const WITHIN_S = 5;

/** Finds a temperature that swings to and fro: so many turns in so short a time are no start that goes its way. */
export class Oscillation {
  private readonly turns = new Float64Array(TURNS).fill(-Infinity);
  private next = 0;
  private extreme = NaN;
  private rising = true;

  reset(): void {
    this.turns.fill(-Infinity);
    this.next = 0;
    this.extreme = NaN;
    this.rising = true;
  }

  /** One filtered reading. @returns true while it swings */
  update(t_s: number, value: number): boolean {
    if (Number.isNaN(this.extreme)) this.extreme = value;
    if (this.rising ? value >= this.extreme : value <= this.extreme) this.extreme = value;
    else if (Math.abs(value - this.extreme) > TURN_K) {
      this.turns[this.next] = t_s;
      this.next = (this.next + 1) % TURNS;
      this.rising = !this.rising;
      this.extreme = value;
    }
    return t_s - this.turns[this.next]! < WITHIN_S;
  }
}
