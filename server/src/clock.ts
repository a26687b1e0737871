/** Time as the program is given it. */
export interface Clock {
  /** wall clock, ms since 1970; it may be set back or forward at any moment */
  now(): number;
  /** ms since the machine was started; it only goes forward */
  monotonic(): number;
}

export const MACHINE_CLOCK: Clock = {
  now: Date.now,
  monotonic: () => Number(process.hrtime.bigint() / 1000n) / 1000,
};
