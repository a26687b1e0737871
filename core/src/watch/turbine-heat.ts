import type { Limit, TurbineStart } from '../aircraft/index.ts';
import * as aborts from './abort-calls.ts';
import type { Corridor } from './corridor.ts';
import type { StartRecord } from './events.ts';
import { HabitCaution } from './habit-caution.ts';
import { HeatAlarm } from './heat-alarm.ts';
import type { PeakPredictor } from './predictor.ts';
import { type DayAir, dayOf } from './start-day.ts';
import { TurbineReadings } from './turbine-readings.ts';

/** What is found in one frame of a start that burns. */
export type HeatFinding =
  | {
      kind: 'caution';
      code: string;
      text: string;
      say: string;
      /** a reading is not believed from now on */ doubt: string | null;
    }
  | { kind: 'stop'; call: aborts.AbortCall }
  /** too hot for this speed because the speed has stopped: the cause is the hang, not the heat */
  | { kind: 'hung' };

/** Judges the heat of a start: by its physics whether it is going to be hot, by its past whether that is usual, and whether its gauge can be believed. */
export class TurbineHeat {
  /** the mildest band of the temperature in a start */
  readonly mildest_C: number;
  private readonly spec: TurbineStart;
  private readonly predictor: PeakPredictor;
  private readonly alarm: HeatAlarm;
  private readonly habit: HabitCaution;
  private readonly readings: TurbineReadings;
  private corridor: Corridor | null = null;
  private doubted = false;

  constructor(spec: TurbineStart, limit: Limit | undefined, predictor: PeakPredictor) {
    this.spec = spec;
    this.predictor = predictor;
    const mildest = limit?.bands[0];
    this.mildest_C = mildest && 'above' in mildest ? mildest.above : Infinity;
    this.alarm = new HeatAlarm(limit);
    this.habit = new HabitCaution(spec.corridor, this.mildest_C);
    this.readings = new TurbineReadings(spec);
  }

  /** The temperature was told to swing to and fro in this start. */
  get swings(): boolean {
    return this.readings.swung;
  }

  reset(): void {
    this.alarm.reset();
    this.habit.reset();
    this.doubted = false;
  }

  /** The start begins to burn. */
  begin(record: StartRecord, air: DayAir, corridor: Corridor | null): void {
    this.corridor = corridor;
    this.readings.begin(record, air);
    if (corridor) this.habit.begin(corridor, dayOf(record));
  }

  /** One frame that burns. @param fuel_kg_h NaN when it is not sensed */
  judge(t_s: number, dt_s: number, ng: number, tot: number, fuel_kg_h: number): HeatFinding | null {
    if (this.doubted) return this.judgeFuel(dt_s, ng, tot, fuel_kg_h);
    const fault = this.readings.judge(t_s, dt_s, ng, tot, fuel_kg_h, this.predictor);
    if (fault) {
      this.doubted = fault.doubted;
      const { code, text, say } = fault;
      return { kind: 'caution', code, text, say, doubt: fault.doubted ? text.split(':')[0]! : null };
    }
    if (this.alarm.rises(dt_s, this.predictor, fuel_kg_h)) return this.stop(tot, this.alarm.words(tot, this.predictor));
    if (!this.corridor || !this.habit.rises(dt_s, this.corridor, ng, tot, this.predictor)) return null;
    const found = this.habit.finding(this.corridor, ng, tot, this.predictor.speedRate_pct_s);
    return { kind: 'caution', ...found, doubt: null };
  }

  /** Where the gauge is not believed, the fuel alone can say that it is going to be hot. */
  private judgeFuel(dt_s: number, ng: number, tot: number, fuel_kg_h: number): HeatFinding | null {
    if (!this.alarm.risesByFuel(dt_s, this.predictor, fuel_kg_h)) return null;
    return this.stop(tot, this.alarm.fuelWords(ng, fuel_kg_h));
  }

  private stop(tot: number, words: string): HeatFinding {
    if (this.predictor.speedRate_pct_s < this.spec.hungRate_pct_s) return { kind: 'hung' };
    return { kind: 'stop', call: aborts.goingToBeHot(tot, words) };
  }
}
