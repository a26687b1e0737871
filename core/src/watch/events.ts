import type { AbortReason, Phase } from '../aircraft/index.ts';
import type { StartProfile } from './start-profile.ts';

/** A turbine goes by fuel, light and self-sustaining speed; a piston engine fires, runs, has oil and charges. */
export type StartState =
  | 'before'
  | 'cranking'
  | 'fuel-on'
  | 'accelerating'
  | 'self-sustaining'
  | 'firing'
  | 'running'
  | 'oil-up'
  | 'charging'
  | 'idle'
  | 'aborted';
export type CueSeverity = 'call' | 'caution' | 'warning';

/** Times and figures of one start attempt. Times are run clock; NaN is not yet, or not seen. */
export interface StartRecord {
  attempt: number;
  starterAt_s: number;
  fuelAt_s: number;
  lightAt_s: number;
  rotorAt_s: number;
  oilAt_s: number;
  selfSustainingAt_s: number;
  starterOffAt_s: number;
  idleAt_s: number;
  residual_C: number;
  outsideAir_C: number;
  pressureAltitude_ft: number;
  tailwind_kt: number;
  voltsBefore_V: number;
  voltsMin_V: number;
  starterMax_A: number;
  peak_C: number;
  peakAt_s: number;
  /** how long nothing was seen of it between starter and idle: holes in the data, and readings that it is judged by and were lost */
  unseen_s: number;
  /** how long a reading that it is judged by could not be believed */
  doubted_s: number;
  /** piston: the battery is charged again */
  chargingAt_s: number;
  /** piston: the fastest that it turned before it settled */
  speedMax_pct: number;
}

/** One excursion past a limit, written when it is over. */
export interface Exceedance {
  limit: string;
  channel: string;
  band: string;
  edge: number;
  severity: 'note' | 'caution' | 'warning';
  start_s: number;
  end_s: number;
  duration_s: number;
  peak: number;
  peakAt_s: number;
  area: number;
  allowed_s: number;
  /** the time allowed was used up */
  expired: boolean;
}

/** What a watch reports, in the order in which it happens. */
export type WatchEvent =
  | { kind: 'state'; t_s: number; watch: string; state: StartState; words: string }
  | { kind: 'cue'; t_s: number; code: string; severity: CueSeverity; text: string; say: string }
  | { kind: 'abort'; t_s: number; watch: string; reason: AbortReason; text: string; say: string; figure: string }
  | {
      kind: 'start-done';
      t_s: number;
      watch: string;
      /** unknown when too much of it was not seen, or could not be believed */
      verdict: 'good' | 'unknown';
      record: StartRecord;
      profile: StartProfile;
    }
  /** an aborted start has come to rest: its figures are final */
  | { kind: 'start-ended'; t_s: number; watch: string; record: StartRecord; profile: StartProfile }
  | {
      kind: 'run-up-done';
      t_s: number;
      watch: string;
      took_s: number;
      torqueMax_pct: number;
      splitMax_pct: number;
      rotorMax_pct: number;
    }
  | { kind: 'exceedance'; t_s: number; exceedance: Exceedance }
  | { kind: 'phase'; t_s: number; phase: Phase };

export type EventSink = (event: WatchEvent) => void;

export function blankRecord(attempt: number): StartRecord {
  return {
    attempt,
    starterAt_s: NaN,
    fuelAt_s: NaN,
    lightAt_s: NaN,
    rotorAt_s: NaN,
    oilAt_s: NaN,
    selfSustainingAt_s: NaN,
    starterOffAt_s: NaN,
    idleAt_s: NaN,
    residual_C: NaN,
    outsideAir_C: NaN,
    pressureAltitude_ft: NaN,
    tailwind_kt: NaN,
    voltsBefore_V: NaN,
    voltsMin_V: NaN,
    starterMax_A: NaN,
    peak_C: NaN,
    peakAt_s: NaN,
    unseen_s: 0,
    doubted_s: 0,
    chargingAt_s: NaN,
    speedMax_pct: NaN,
  };
}
