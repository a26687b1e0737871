import type { Ways } from '../aircraft/index.ts';
import type { Balance, FuelPlan } from '../loading/index.ts';
import type { OeiMass, OeiRatingId, OeiRequired } from '../power/index.ts';
import type { BriefRecord, HoverFigure, RunSchedule } from '../procedure/index.ts';
import type { Separation } from '../rotorwash/index.ts';
import type { ColdBattery } from '../thermal/index.ts';
import type { RotorWind, WindComponents } from '../weather/index.ts';
import type { ExpectedStart } from './expected-start.ts';
import type { Figure } from './figure.ts';
import type { Neighbour } from './input.ts';
import type { StartOrder } from './start-order.ts';

/** Something that holds the run: a no-go holds it whatever anybody says, a caution until somebody gives a reason. */
export interface Objection {
  id: string;
  severity: 'no-go' | 'caution';
  title: string;
  words: string;
  /** the entry of the journal that an engineer's release settles */
  exceedance?: { run: string; seq: number };
}

export interface NeighbourWash {
  neighbour: Neighbour;
  slow: boolean;
  separation: Figure<Separation>;
  /** false when it stands nearer than it should */
  clear: boolean | null;
}

/** What today allows and what the plan is. */
export interface BriefFigures {
  pressureAltitude_ft: Figure<number>;
  densityAltitude_ft: Figure<number>;
  components: Figure<WindComponents>;
  rotorStart: Figure<RotorWind>;
  rotorStop: Figure<RotorWind>;
  /** minutes since the conditions were observed */
  age_min: number | null;
  topLimit: Figure<number>;
  mcpLimit: Figure<number>;
  /** never-exceed speed of this air, kt; null where the type has no table of it */
  neverExceed_kt: Figure<number> | null;
  fuel: Figure<FuelPlan>;
  landingFuel_kg: Figure<number>;
  balance: Figure<Balance>;
  landing: Figure<Balance>;
  liftMass_kg: Figure<number>;
  hoverIge: Figure<HoverFigure>;
  hoverOge: Figure<HoverFigure>;
  /** null for a single */
  oei: Figure<Record<OeiRatingId, OeiMass>> | null;
  oeiAtLift: Figure<OeiRequired> | null;
  wash: NeighbourWash[];
  battery: Figure<ColdBattery>;
  start: Figure<ExpectedStart>;
  order: StartOrder | null;
  ways: Ways;
  schedule: RunSchedule;
}

export interface Brief extends BriefFigures {
  objections: Objection[];
  /** no no-go stands, and every caution has a reason */
  clear: boolean;
  record: BriefRecord;
}
