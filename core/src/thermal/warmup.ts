import { needNumber, Refused, roundStep } from '../quantity/index.ts';
import type { WarmupModel } from './model.ts';
import { solve, studentQuantile } from '../statistics/index.ts';

export interface Warmup {
  status: 'OK' | 'PRELIMINARY' | 'ALREADY_GREEN' | 'NOT_WARMING' | 'TARGET_NOT_REACHED_AT_THIS_POWER';
  eta_s: number | null;
  eta_low_s: number | null;
  eta_high_s: number | null;
  tau_s: number;
  tau_source: 'FITTED' | 'PRIOR';
  t_inf_C: number;
  amplitude_C: number;
  rms_C: number;
  display: { eta_min: number | null };
}

interface Fit {
  tau_s: number;
  t_inf_C: number;
  /** amplitude at the first sample, negative while warming */
  b_C: number;
  sse: number;
}

type Sample = readonly [number, number];

const GRID = 121;
const GOLDEN_STEPS = 80;
const GOLDEN = (Math.sqrt(5) - 1) / 2;
/** The finest reading of a temperature that counts as a difference, °C. */
const RESOLUTION_C = 0.02;
const FEWEST = 6;
const LEAST_SPAN = 0.3;
const PRIOR_SPREAD = [0.6, 1, 1.7];

/** The end temperature and the amplitude are linear for a given time constant. */
function fitAt(samples: readonly Sample[], tau_s: number): Fit {
  const t0 = samples[0]![0];
  let [n, sx, sxx, sy, sxy] = [0, 0, 0, 0, 0];
  for (const [t, y] of samples) {
    const x = Math.exp(-(t - t0) / tau_s);
    n++;
    sx += x;
    sxx += x * x;
    sy += y;
    sxy += x * y;
  }
  const b_C = (n * sxy - sx * sy) / (n * sxx - sx * sx);
  const t_inf_C = (sy - b_C * sx) / n;
  let sse = 0;
  for (const [t, y] of samples) sse += (y - t_inf_C - b_C * Math.exp(-(t - t0) / tau_s)) ** 2;
  return { tau_s, t_inf_C, b_C, sse };
}

/** Time from the last sample to the target by a fit, null when it never gets there. */
function eta(fit: Fit, span_s: number, target_C: number): number | null {
  const gap = -fit.b_C * Math.exp(-span_s / fit.tau_s);
  if (fit.b_C >= 0 || fit.t_inf_C <= target_C) return null;
  return fit.tau_s * Math.log(gap / (fit.t_inf_C - target_C));
}

/**
 * Time until a temperature is in the green, from this run's own samples: an exponential toward the end temperature of
 * this power. The display shows the late end.
 * @param input.samples [time s, temperature °C], rising times, since the last change of power
 * @throws Refused INSUFFICIENT_DATA under 6 samples, BAD_SERIES
 */
export function warmupPredict(model: WarmupModel, input: { samples: Sample[]; target_C?: number | undefined }): Warmup {
  const { samples } = input;
  const target_C = input.target_C ?? model.green_C;
  if (!Array.isArray(samples)) throw new Refused('MISSING', 'samples');
  if (samples.length < FEWEST) throw new Refused('INSUFFICIENT_DATA', 'samples');
  for (const [i, [t, y]] of samples.entries()) {
    needNumber(t, 'samples');
    needNumber(y, 'samples');
    if (i > 0 && t <= samples[i - 1]![0]) throw new Refused('BAD_SERIES', 'samples');
  }
  const span_s = samples[samples.length - 1]![0] - samples[0]![0];
  const { fit, inside } = bestFit(samples, model);
  const fitted = inside && span_s >= LEAST_SPAN * fit.tau_s;
  const used = fitted ? fit : fitAt(samples, model.tau_prior_s);
  const eta_s = eta(used, span_s, target_C);
  const [low, high] = fitted
    ? fittedInterval(samples, used, span_s, target_C, model)
    : interval(PRIOR_SPREAD.map((f) => eta(fitAt(samples, model.tau_prior_s * f), span_s, target_C)));
  const [first, last] = [samples[0]![1], samples[samples.length - 1]![1]];
  const answer = (status: Warmup['status'], times: [number | null, number | null, number | null]): Warmup => ({
    status,
    eta_s: times[0],
    eta_low_s: times[1],
    eta_high_s: times[2],
    tau_s: used.tau_s,
    tau_source: fitted ? 'FITTED' : 'PRIOR',
    t_inf_C: used.t_inf_C,
    amplitude_C: used.b_C,
    rms_C: Math.sqrt(used.sse / samples.length),
    display: { eta_min: times[2] === null ? null : roundStep(times[2] / 60, 1, 'ceil') },
  });
  if (last >= target_C) return answer('ALREADY_GREEN', [0, 0, 0]);
  if (eta_s === null)
    return answer(last <= first ? 'NOT_WARMING' : 'TARGET_NOT_REACHED_AT_THIS_POWER', [null, null, null]);
  return answer(fitted ? 'OK' : 'PRELIMINARY', [
    Math.max(0, eta_s),
    low && Math.max(0, low),
    high && Math.max(0, high),
  ]);
}

function bestFit(samples: readonly Sample[], model: WarmupModel): { fit: Fit; inside: boolean } {
  const [from, to] = [Math.log(model.tau_min_s), Math.log(model.tau_max_s)];
  const at = (i: number): number => from + ((to - from) * i) / (GRID - 1);
  const sseAt = (lnTau: number): number => fitAt(samples, Math.exp(lnTau)).sse;
  let best = 0;
  let least = Infinity;
  for (let i = 0; i < GRID; i++) {
    const sse = sseAt(at(i));
    if (sse < least) [best, least] = [i, sse];
  }
  if (best === 0 || best === GRID - 1) return { fit: fitAt(samples, Math.exp(at(best))), inside: false };
  let [a, b] = [at(best - 1), at(best + 1)];
  let [c, d] = [b - GOLDEN * (b - a), a + GOLDEN * (b - a)];
  let [fc, fd] = [sseAt(c), sseAt(d)];
  for (let i = 0; i < GOLDEN_STEPS; i++) {
    if (fc < fd) {
      [b, d, fd] = [d, c, fc];
      c = b - GOLDEN * (b - a);
      fc = sseAt(c);
    } else {
      [a, c, fc] = [c, d, fd];
      d = a + GOLDEN * (b - a);
      fd = sseAt(d);
    }
  }
  return { fit: fitAt(samples, Math.exp((a + b) / 2)), inside: true };
}

function interval(ends: (number | null)[]): [number | null, number | null] {
  const known = ends.filter((e): e is number => e !== null);
  return known.length < ends.length ? [null, null] : [Math.min(...known), Math.max(...known)];
}

/** The wider of the profile and the delta-method intervals at 90 %. @source docs/calculations.md, cold and hot */
function fittedInterval(
  samples: readonly Sample[],
  fit: Fit,
  span_s: number,
  target_C: number,
  model: WarmupModel,
): [number | null, number | null] {
  const n = samples.length;
  const dof = n - 3;
  const t = studentQuantile(0.95, dof);
  const floor = Math.max(fit.sse, n * RESOLUTION_C ** 2);
  const limit = floor * (1 + t ** 2 / dof);
  const edge = (bound_s: number): number => {
    let [near, far] = [Math.log(fit.tau_s), Math.log(bound_s)];
    if (fitAt(samples, bound_s).sse <= limit) return bound_s;
    for (let i = 0; i < 100; i++) {
      const mid = (near + far) / 2;
      if (fitAt(samples, Math.exp(mid)).sse <= limit) near = mid;
      else far = mid;
    }
    return Math.exp((near + far) / 2);
  };
  const profile = [model.tau_min_s, model.tau_max_s].map((bound) => eta(fitAt(samples, edge(bound)), span_s, target_C));
  const centre = eta(fit, span_s, target_C);
  const se = centre === null ? null : deltaError(samples, fit, span_s, target_C, floor / dof);
  const delta = centre === null || se === null ? [null] : [centre - t * se, centre + t * se];
  return interval([...profile, ...delta]);
}

/** Standard error of the time by the covariance of end temperature, amplitude and time constant. */
function deltaError(
  samples: readonly Sample[],
  fit: Fit,
  span_s: number,
  target_C: number,
  variance: number,
): number | null {
  const t0 = samples[0]![0];
  const normal = [
    [0, 0, 0],
    [0, 0, 0],
    [0, 0, 0],
  ];
  for (const [t] of samples) {
    const u = (t - t0) / fit.tau_s;
    const row = [1, Math.exp(-u), (fit.b_C * Math.exp(-u) * u) / fit.tau_s];
    for (let i = 0; i < 3; i++) for (let k = 0; k < 3; k++) normal[i]![k]! += row[i]! * row[k]!;
  }
  // eta = tau·ln(-b/(Tinf - target)) - span
  const ratio = -fit.b_C / (fit.t_inf_C - target_C);
  const gradient = [-fit.tau_s / (fit.t_inf_C - target_C), fit.tau_s / fit.b_C, Math.log(ratio)];
  const solved = solve(normal, gradient);
  if (!solved) return null;
  return Math.sqrt(Math.max(0, variance * gradient.reduce((sum, g, i) => sum + g * solved[i]!, 0)));
}
