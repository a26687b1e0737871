import type { AbortReason } from '../aircraft/index.ts';

/** Why a start is to be stopped: the line on the screen, the spoken call and the figure that decided. */
export interface AbortCall {
  reason: AbortReason;
  text: string;
  say: string;
  figure: string;
}

const speed = (ng_pct: number, digits = 1): string => `${ng_pct.toFixed(digits)} % Ng`;

export const ownCall = (): AbortCall => ({
  reason: 'pilot',
  text: 'Stopped by the pilot',
  say: 'Stop. Selector off.',
  figure: 'own call',
});

export const selectorOff = (ng_pct: number): AbortCall => ({
  reason: 'pilot',
  text: 'Selector moved to off during the start',
  say: 'Start stopped.',
  figure: speed(ng_pct, 0),
});

export const sensorLost = (what: string, for_s: number): AbortCall => ({
  reason: 'sensor-lost',
  text: `${what} lost for ${for_s} s`,
  say: `Abort. ${what} lost.`,
  figure: 'unknown',
});

/** A temperature that leaps from one reading to the next: no gas does that. */
export const leapt = (from_C: number, to_C: number): AbortCall => ({
  reason: 'sensor-lost',
  text: `Temperature leapt from ${from_C.toFixed(0)} past ${to_C.toFixed(0)} °C in one reading: it cannot be believed`,
  say: 'Abort. Temperature lost.',
  figure: 'unknown',
});

export const noCrank = (ng_pct: number, within_s: number): AbortCall => ({
  reason: 'no-crank',
  text: `Ng ${ng_pct.toFixed(1)} % after ${within_s} s of starter`,
  say: 'Abort. Engine does not turn.',
  figure: speed(ng_pct),
});

export const noLight = (after_s: number, within_s: number): AbortCall => ({
  reason: 'no-light',
  text: `No light ${after_s.toFixed(1)} s after fuel; ${within_s} s are allowed`,
  say: 'Abort. No light.',
  figure: `${after_s.toFixed(1)} s`,
});

export const hot = (tot_C: number, because: string): AbortCall => ({
  reason: 'hot',
  text: `TOT ${tot_C.toFixed(0)} °C: ${because}`,
  say: `Abort. Hot start, ${tot_C.toFixed(0)}.`,
  figure: `${tot_C.toFixed(0)} °C`,
});

/** @param prediction the corridor's words for what is coming */
export const goingToBeHot = (tot_C: number, prediction: string): AbortCall => ({
  reason: 'going-to-be-hot',
  text: prediction,
  say: `Abort. Going to be hot, ${tot_C.toFixed(0)}.`,
  figure: `${tot_C.toFixed(0)} °C`,
});

export const lowVolts = (lowest_V: number, because: string): AbortCall => ({
  reason: 'low-volts',
  text: `Bus ${lowest_V.toFixed(1)} V: ${because}`,
  say: `Abort. Volts low, ${lowest_V.toFixed(0)}.`,
  figure: `${lowest_V.toFixed(1)} V`,
});

export const hung = (ng_pct: number, rate_pct_s: number, for_s: number, tot_C: number): AbortCall => ({
  reason: 'hung',
  text: `Ng hangs at ${ng_pct.toFixed(1)} %, ${rate_pct_s.toFixed(1)} % a second for ${for_s.toFixed(1)} s, TOT ${tot_C.toFixed(0)} °C`,
  say: `Abort. Hung at ${ng_pct.toFixed(0)} percent.`,
  figure: speed(ng_pct),
});

export const controlAbort = (ng_pct: number): AbortCall => ({
  reason: 'control-abort',
  text: 'The control has shut the fuel by itself',
  say: 'Abort. The control stopped the start.',
  figure: speed(ng_pct, 0),
});

/** what is too little never reads as enough */
const down = (bar: number): string => (Math.floor(Math.max(0, bar) * 10) / 10).toFixed(1);

export const noOilPressure = (oil_bar: number, within_s: number, since = 'light-off'): AbortCall => ({
  reason: 'no-oil-pressure',
  text: `Oil ${down(oil_bar)} bar ${within_s} s after ${since}`,
  say: 'Abort. No oil pressure.',
  figure: `${down(oil_bar)} bar`,
});

export const rotorNotTurning = (ng_pct: number): AbortCall => ({
  reason: 'rotor-not-turning',
  text: `Rotor still at ${speed(ng_pct, 0)}`,
  say: 'Abort. Rotor not turning.',
  figure: speed(ng_pct, 0),
});

export const starterNotReleasing = (ng_pct: number): AbortCall => ({
  reason: 'starter-not-releasing',
  text: `Starter still drives at ${speed(ng_pct, 0)}`,
  say: 'Abort. Starter not releasing.',
  figure: speed(ng_pct, 0),
});

export const tooSlow = (ng_pct: number, within_s: number, swings: boolean): AbortCall => ({
  reason: 'slow',
  text: `Not at idle ${within_s} s after the starter${swings ? ', and its temperature swings' : ''}`,
  say: 'Abort. Too slow.',
  figure: speed(ng_pct, 0),
});

export const lateLight = (after_s: number, within_s: number): AbortCall => ({
  reason: 'late-light',
  text: `Lit ${after_s.toFixed(1)} s after fuel, over fuel that had collected; ${within_s} s are allowed`,
  say: 'Late light. Fuel off.',
  figure: `${after_s.toFixed(1)} s`,
});

/** @param unit what the speed is of */
export const overspeed = (speed_pct: number, most_pct: number, unit = 'Ng'): AbortCall => ({
  reason: 'overspeed',
  text: `${unit} ${speed_pct.toFixed(1)} %; not above ${most_pct} % in a start`,
  say: `Abort. Overspeed, ${speed_pct.toFixed(0)}.`,
  figure: `${speed_pct.toFixed(1)} % ${unit}`,
});

/** It is not too fast yet, and will be before a hand can close the throttle. */
export const runsAway = (speed_pct: number, rate_pct_s: number, most_pct: number): AbortCall => ({
  reason: 'overspeed',
  text: `Engine ${speed_pct.toFixed(0)} %, ${rate_pct_s.toFixed(0)} % a second faster: it is going to pass ${most_pct} %`,
  say: 'Abort. Engine runs away.',
  figure: `${speed_pct.toFixed(0)} %`,
});

export const fire = (ng_pct: number): AbortCall => ({
  reason: 'fire',
  text: `Fire warning at ${speed(ng_pct, 0)}`,
  say: 'Abort. Fire.',
  figure: speed(ng_pct, 0),
});

export const controlFault = (ng_pct: number): AbortCall => ({
  reason: 'control-fault',
  text: `Both channels of the control are lost at ${speed(ng_pct, 0)}`,
  say: 'Abort. Control lost.',
  figure: speed(ng_pct, 0),
});

/** @param unit what the speed is of */
/** @param because what it may be, null where nothing hints at it */
export const died = (speed_pct: number, unit = 'Ng', because: string | null = null): AbortCall => ({
  reason: 'died',
  text: `The engine ran down by itself, ${speed_pct.toFixed(0)} % ${unit}${because === null ? '' : `: ${because}`}`,
  say: 'Engine died.',
  figure: `${speed_pct.toFixed(0)} % ${unit}`,
});

/** @param because what keeps it from firing */
export const doesNotFire = (after_s: number, because: string): AbortCall => ({
  reason: 'no-light',
  text: `It has not fired after ${after_s.toFixed(0)} s of cranking: ${because}`,
  say: 'Stop cranking. It does not fire.',
  figure: `${after_s.toFixed(0)} s`,
});

export const turnsTooSlowly = (rpm_pct: number, after_s: number): AbortCall => ({
  reason: 'no-crank',
  text: `Engine at ${rpm_pct.toFixed(1)} % after ${after_s} s of starter`,
  say: 'Stop. Engine does not turn.',
  figure: `${rpm_pct.toFixed(1)} %`,
});

export const engagedTooFast = (rpm_pct: number): AbortCall => ({
  reason: 'starter-not-releasing',
  text: `Starter still engaged at ${rpm_pct.toFixed(0)} % engine speed`,
  say: 'Abort. Starter not releasing.',
  figure: `${rpm_pct.toFixed(0)} %`,
});

export const notIdling = (rpm_pct: number, within_s: number): AbortCall => ({
  reason: 'slow',
  text: `Not at idle with oil and charge ${within_s} s after the starter`,
  say: 'Abort. Does not settle.',
  figure: `${rpm_pct.toFixed(0)} %`,
});

export const magnetosOff = (rpm_pct: number): AbortCall => ({
  reason: 'pilot',
  text: 'Magnetos switched off during the start',
  say: 'Start stopped.',
  figure: `${rpm_pct.toFixed(0)} % engine`,
});
