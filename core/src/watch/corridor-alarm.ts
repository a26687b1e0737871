import type { TurbineStart } from '../aircraft/index.ts';
import { binOf, type Corridor } from './corridor.ts';
import type { StartRecord } from './events.ts';
import type { PeakPredictor } from './predictor.ts';

const AIR_MARGIN_K = 3;
const VOLTS_MARGIN_V = 0.3;

/** Calls once in a start that leaves this tail's corridor: indication or lag-corrected gas above it for several samples. */
export class CorridorAlarm {
  private readonly margins: TurbineStart['corridor'];
  private over = 0;
  private called = false;

  constructor(margins: TurbineStart['corridor']) {
    this.margins = margins;
  }

  reset(): void {
    this.over = 0;
    this.called = false;
  }

  /** One sample while fuel is on. @returns true at the sample that makes the alarm */
  rises(corridor: Corridor, ng_pct: number, tot_C: number, gas_C: number): boolean {
    if (this.called) return false;
    const bin = binOf(ng_pct);
    const { indicationMargin_K, gasMargin_K, samples } = this.margins;
    const outside =
      tot_C > corridor.upperTot_C[bin]! + indicationMargin_K || gas_C > corridor.upperGas_C[bin]! + gasMargin_K;
    this.over = outside ? this.over + 1 : 0;
    this.called = this.over >= samples;
    return this.called;
  }

  /** What is seen: the temperature, how fast it rises, and how far it is above every good start. */
  words(corridor: Corridor, ng_pct: number, tot_C: number, predictor: PeakPredictor): string {
    const bin = binOf(ng_pct);
    const indicated = tot_C - corridor.upperTot_C[bin]!;
    const byGas = predictor.gas_C - corridor.upperGas_C[bin]!;
    const what = byGas > indicated ? `its gas ${byGas.toFixed(0)} °C` : `${indicated.toFixed(0)} °C`;
    return `TOT ${tot_C.toFixed(0)} °C rising ${predictor.rate_K_s.toFixed(0)} °C a second, ${what} above every good start of this aircraft at ${ng_pct.toFixed(0)} % Ng`;
  }
}

/** Words when a start is made in conditions that the corridor has never seen, null inside them. */
export function outsideLearned(corridor: Corridor, record: StartRecord): string | null {
  const { outsideAir_C: air, voltsBefore_V: volts } = corridor;
  if (!(record.outsideAir_C >= air.low - AIR_MARGIN_K && record.outsideAir_C <= air.high + AIR_MARGIN_K)) {
    return `Learned between ${air.low.toFixed(0)} and ${air.high.toFixed(0)} °C outside; be ready to stop`;
  }
  if (!(record.voltsBefore_V >= volts.low - VOLTS_MARGIN_V)) {
    return `Learned with ${volts.low.toFixed(1)} V and more before the start; be ready to stop`;
  }
  return null;
}
