/** The higher of an extreme that is kept (NaN while there is none) and a reading. An unknown reading (NaN) changes nothing. */
export const higherOf = (kept: number, reading: number): number =>
  reading > kept || Number.isNaN(kept) ? reading : kept;

/** The lower of an extreme that is kept (NaN while there is none) and a reading. An unknown reading (NaN) changes nothing. */
export const lowerOf = (kept: number, reading: number): number =>
  reading < kept || Number.isNaN(kept) ? reading : kept;
