/** Codes of docs/calculations.md, conventions: why a calculator gives no figure. */
export type RefusalCode =
  | 'MISSING'
  | 'NOT_A_NUMBER'
  | 'BAD_OPTION'
  | 'UNKNOWN_AIRCRAFT'
  | 'UNKNOWN_RATING'
  | 'UNKNOWN_UNIT'
  | 'UNIT_MISMATCH'
  | 'OUT_OF_RANGE'
  | 'OUT_OF_DOMAIN'
  | 'OUT_OF_CHART'
  | 'CHART_BLANK'
  | 'BAD_TABLE'
  | 'INCONSISTENT'
  | 'BAD_SERIES'
  | 'INSUFFICIENT_DATA'
  | 'NO_SPREAD'
  | 'NO_SOLUTION'
  | 'NOT_MULTI_ENGINE'
  | 'ORDER_IMPOSSIBLE'
  | 'CYCLE'
  | 'UNKNOWN_DEPENDENCY'
  | 'DUPLICATE_ID'
  | 'TOO_LARGE'
  | 'BAD_CONFIG'
  | 'BAD_TIME'
  | 'EMPTY';

export interface Refusal {
  error: RefusalCode;
  field: string;
}

/** A calculator that can't give a figure says why and for which field; it never guesses and never returns NaN. */
export class Refused extends Error {
  readonly code: RefusalCode;
  readonly field: string;

  constructor(code: RefusalCode, field: string) {
    super(`${code}: ${field}`);
    this.code = code;
    this.field = field;
  }
}

/** Runs a calculation. @returns its result, or the refusal as plain data */
export function attempt<T>(calculate: () => T): T | Refusal {
  try {
    return calculate();
  } catch (error) {
    if (error instanceof Refused) return { error: error.code, field: error.field };
    throw error;
  }
}

export function isRefusal(result: unknown): result is Refusal {
  return typeof result === 'object' && result !== null && 'error' in result && 'field' in result;
}

/** A number that has to be there and inside [low, high]. @throws Refused MISSING, NOT_A_NUMBER, or `outside` */
export function needNumber(
  value: unknown,
  field: string,
  low = -Infinity,
  high = Infinity,
  outside: RefusalCode = 'OUT_OF_RANGE',
): number {
  if (value === undefined || value === null) throw new Refused('MISSING', field);
  if (typeof value !== 'number' || !Number.isFinite(value)) throw new Refused('NOT_A_NUMBER', field);
  if (value < low || value > high) throw new Refused(outside, field);
  return value;
}

/** As `needNumber`, with a value for when it is missing. */
export function numberOr<D>(
  value: unknown,
  missing: D,
  field: string,
  low = -Infinity,
  high = Infinity,
  outside: RefusalCode = 'OUT_OF_RANGE',
): number | D {
  return value === undefined || value === null ? missing : needNumber(value, field, low, high, outside);
}

/** One of a list. @throws Refused MISSING or `code` */
export function needOption<T extends string>(
  value: unknown,
  options: readonly T[],
  field: string,
  code: RefusalCode = 'BAD_OPTION',
): T {
  if (value === undefined || value === null) throw new Refused('MISSING', field);
  const found = options.find((o) => o === value);
  if (found === undefined) throw new Refused(code, field);
  return found;
}
