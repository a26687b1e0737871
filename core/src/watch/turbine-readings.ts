import type { TurbineStart } from '../aircraft/index.ts';
import type { StartRecord } from './events.ts';
import { FuelHeat } from './fuel-heat.ts';
import { Oscillation } from './oscillation.ts';
import type { PeakPredictor } from './predictor.ts';
import type { DayAir } from './start-day.ts';
import { StuckReading } from './stuck-reading.ts';

const STUCK_MOVES_NG_PCT = 5;
const STUCK_MOVES_TOT_K = 60;
/** a thermocouple that is stuck may still tremble by so much */
const STUCK_WITHIN_K = 0.3;

/** What is said of readings that do not fit together. */
export interface ReadingFault {
  code: 'reading-stuck' | 'reading-implausible' | 'hotter-than-fuel' | 'oscillation';
  text: string;
  say: string;
  /** the temperature is not believed from now on */
  doubted: boolean;
}

/** Whether temperature and speed of a start can be believed, by each other and by the fuel that burns. */
export class TurbineReadings {
  private readonly stuckTot = new StuckReading(STUCK_WITHIN_K);
  private readonly stuckNg = new StuckReading(0);
  private readonly fuelHeat: FuelHeat;
  private readonly swings = new Oscillation();
  /** the temperature was told to swing */
  swung = false;
  private high = false;

  constructor(spec: TurbineStart) {
    this.fuelHeat = new FuelHeat(spec);
  }

  /** The start begins to burn. */
  begin(record: StartRecord, air: DayAir): void {
    this.stuckTot.reset();
    this.stuckNg.reset();
    this.swings.reset();
    this.swung = false;
    this.high = false;
    this.fuelHeat.begin(record.outsideAir_C, air, record.lightAt_s - record.fuelAt_s);
  }

  /** One frame that burns. @returns what is wrong in it, null while nothing is */
  judge(
    t_s: number,
    dt_s: number,
    ng: number,
    tot: number,
    fuel_kg_h: number,
    predictor: PeakPredictor,
  ): ReadingFault | null {
    if (this.stuckTot.update(dt_s, tot, ng, STUCK_MOVES_NG_PCT))
      return stuck(`Temperature has stood at ${tot.toFixed(0)} °C while the speed rose`, 'Temperature may be stuck.');
    if (this.stuckNg.update(dt_s, ng, tot, STUCK_MOVES_TOT_K))
      return stuck(`Speed has stood at ${ng.toFixed(1)} % while the temperature moved`, 'Speed may be stuck.');
    const side = this.fuelHeat.update(dt_s, predictor, ng, fuel_kg_h);
    if (side === 'low') return tooLow(tot, ng, fuel_kg_h);
    if (side === 'high' && !this.high) {
      this.high = true;
      return tooHigh(tot, ng, fuel_kg_h);
    }
    if (this.swung || !this.swings.update(t_s, predictor.Tf_C)) return null;
    this.swung = true;
    return {
      code: 'oscillation',
      text: 'The temperature swings to and fro: the fuel or the air flow is not steady. Be ready to stop',
      say: 'Temperature swings.',
      doubted: false,
    };
  }
}

const UNTIL_THEN = 'No forecast from the gauge any more; judge by the other instruments';

const stuck = (what: string, say: string): ReadingFault => ({
  code: 'reading-stuck',
  text: `${what}: it may be stuck. ${UNTIL_THEN}`,
  say,
  doubted: true,
});

const measured = (ng: number, fuel_kg_h: number): string =>
  `for ${fuel_kg_h.toFixed(0)} kg/h of fuel at ${ng.toFixed(0)} % Ng`;

const tooLow = (tot: number, ng: number, fuel_kg_h: number): ReadingFault => ({
  code: 'reading-implausible',
  text: `TOT ${tot.toFixed(0)} °C is too low ${measured(ng, fuel_kg_h)}: temperature, speed or fuel is read wrongly. ${UNTIL_THEN}`,
  say: 'Temperature reads too low.',
  doubted: true,
});

/** Heat that the fuel does not explain is believed: too little air makes it as well as a gauge that reads high. */
const tooHigh = (tot: number, ng: number, fuel_kg_h: number): ReadingFault => ({
  code: 'hotter-than-fuel',
  text: `TOT ${tot.toFixed(0)} °C is too high ${measured(ng, fuel_kg_h)}: too little air goes through, or the gauge reads high. Be ready to stop`,
  say: 'Hotter than its fuel.',
  doubted: false,
});
