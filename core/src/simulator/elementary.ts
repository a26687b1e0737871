/**
 * Exponential, logarithm, power and their kin from additions, multiplications and divisions alone, which every machine
 * rounds alike. The built-in ones differ in their last bits between engines, and a simulated start would with them.
 * @source the freely distributable mathematical library (range reduction and minimax polynomials)
 */

const LN2_HIGH = 6.93147180369123816490e-1; // oxfmt-ignore
const LN2_LOW = 1.90821492927058770002e-10;
const PER_LN2 = 1.4426950408889634;
const LEAST_EXPONENT = -1022;
const GREATEST_EXPONENT = 1023;
/** 2^k for every normal exponent. */
const TWO_TO = powersOfTwo();

function powersOfTwo(): Float64Array {
  const table = new Float64Array(GREATEST_EXPONENT - LEAST_EXPONENT + 1);
  table[-LEAST_EXPONENT] = 1;
  for (let k = 1; k <= GREATEST_EXPONENT; k++) table[k - LEAST_EXPONENT] = 2 * table[k - 1 - LEAST_EXPONENT]!;
  for (let k = -1; k >= LEAST_EXPONENT; k--) table[k - LEAST_EXPONENT] = table[k + 1 - LEAST_EXPONENT]! / 2;
  return table;
}

/** e^x, within a unit or two of the last place; 0 below -708, infinite above 709. */
export function exp(x: number): number {
  if (x > 709) return Infinity;
  if (x < -708) return 0;
  const k = Math.floor(x * PER_LN2 + 0.5);
  const high = x - k * LN2_HIGH;
  const low = k * LN2_LOW;
  const r = high - low;
  const t = r * r;
  const c =
    r -
    t *
      (1.66666666666666019037e-1 +
        t *
          (-2.77777777770155933842e-3 +
            t * (6.61375632143793436117e-5 + t * (-1.65339022054652515390e-6 + t * 4.13813679705723846039e-8)))); // oxfmt-ignore
  return (1 - (low - (r * c) / (2 - c) - high)) * TWO_TO[k - LEAST_EXPONENT]!;
}

const double = new Float64Array(1);
const words = new Uint32Array(double.buffer);
double[0] = 1;
/** place of the word with sign and exponent: the order of the bytes is the machine's */
const HIGH = words[1] === 0x3ff00000 ? 1 : 0;

/** Natural logarithm of a positive normal number, within a unit or two of the last place. */
export function log(x: number): number {
  if (!(x > 0)) return x === 0 ? -Infinity : NaN;
  double[0] = x;
  const high = words[HIGH]!;
  let k = (high >>> 20) - 1023;
  const mantissa = high & 0xfffff;
  // the fraction is brought between √½ and √2
  const up = (mantissa + 0x95f64) & 0x100000;
  words[HIGH] = mantissa | (up ^ 0x3ff00000);
  k += up >>> 20;
  const f = double[0] - 1;
  const s = f / (2 + f);
  const z = s * s;
  const w = z * z;
  const even = w * (3.999999999940941908e-1 + w * (2.222219843214978396e-1 + w * 1.531383769920937332e-1));
  const odd =
    z *
    (6.666666666666735130e-1 +
      w * (2.857142874366239149e-1 + w * (1.818357216161805012e-1 + w * 1.479819860511658591e-1))); // oxfmt-ignore
  const half = 0.5 * f * f;
  return k * LN2_HIGH - (half - (s * (half + even + odd) + k * LN2_LOW) - f);
}

/** x^y for x ≥ 0. */
export function pow(x: number, y: number): number {
  return x === 0 ? (y === 0 ? 1 : 0) : exp(y * log(x));
}

export function tanh(x: number): number {
  if (x > 20) return 1;
  if (x < -20) return -1;
  const e = exp(2 * x);
  return (e - 1) / (e + 1);
}

/** Sine of an angle in the first octant, by its series. */
export function sin(x: number): number {
  const t = x * x;
  return x * (1 - (t / 6) * (1 - (t / 20) * (1 - (t / 42) * (1 - (t / 72) * (1 - t / 110)))));
}
