import type { WatchedType } from '../aircraft/index.ts';
import type { SimulatedCockpit } from '../simulator/index.ts';
import type { DrillFault } from './lesson.ts';

/** A fault that has struck. */
export interface Struck {
  fault: DrillFault;
  t_s: number;
}

/** how soon a fault that an instructor arms is to be met, s */
const ARMED_WITHIN_S = 4;

/** What goes wrong in a drill: the faults of its lesson, those that an instructor arms, and when they struck. */
export class ArmedFaults {
  readonly struck: Struck[] = [];
  private readonly waiting: DrillFault[];

  constructor(faults: readonly DrillFault[]) {
    this.waiting = [...faults];
  }

  /** The faults of a condition wait for their moment from now on. @returns its name @throws RangeError where the type has no such condition */
  arm(type: WatchedType, condition: string): string {
    const preset = type.standIn.find((p) => p.id === condition);
    if (!preset) throw new RangeError(`${type.id} has no condition named ${condition}`);
    for (const fault of preset.faults)
      this.waiting.push({ ...fault, label: preset.label, found: 'stop', within_s: ARMED_WITHIN_S });
    return preset.label;
  }

  /** Strikes those whose moment has come. */
  step(cockpit: SimulatedCockpit, t_s: number): void {
    for (let i = this.waiting.length - 1; i >= 0; i--) {
      const fault = this.waiting[i]!;
      if (fault.when && !cockpit.holds(fault.when)) continue;
      cockpit.strike(fault.set);
      this.waiting.splice(i, 1);
      this.struck.push({ fault, t_s });
    }
  }
}
