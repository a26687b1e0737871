import type { StandInPreset } from '@rouse/core/aircraft';
import type { Conditions } from '@rouse/core/simulator';
import type { Maintenance } from '@rouse/core/trends';

/** What a year does to one aircraft. The simulator flies it; whether anybody notices is up to the methods. */
export interface Story {
  tail: string;
  /** starts of its past for each start of the one that flies most */
  share: number;
  /** of its latest flights this share goes on over hover and shut-down: a habit of both begins with these */
  through: number;
  /** what has aged by then. @param gone of the year, 0 to 1 */
  aged: (gone: number) => { conditions: Conditions; faults: StandInPreset['faults'] };
  /** what an engineer did, and when in the year */
  maintenance: readonly { gone: number; kind: Maintenance; words: string }[];
  /** the last flight of the year goes wrong */
  lastFlight?: { faults: StandInPreset['faults']; words: string; endsAt_s: number };
}

const healthy: Story['aged'] = (gone) => ({ conditions: { batt_age: 1 + 0.12 * gone }, faults: [] });

const WASHED = 0.35;
const WEARS_FROM = 0.45;
const BATTERY_CHANGED = 0.59;

/** Everything that is told of the fleet's past. */
export const STORIES: readonly Story[] = [
  {
    // dirt until it is washed, a new battery in summer, and a turbine that wears since spring
    tail: 'QV-SKY',
    share: 1,
    through: 0.85,
    aged: (gone) => {
      const dirt = gone < WASHED ? 0.012 * (gone / WASHED) : 0;
      const worn = Math.max(0, gone - WEARS_FROM) / (1 - WEARS_FROM);
      return {
        conditions: { batt_age: gone < BATTERY_CHANGED ? 1.15 + 0.5 * gone : 1 + 0.1 * (gone - BATTERY_CHANGED) },
        faults: [{ set: { 'fault.e1.comp_eff': 1 - dirt, 'fault.e1.turb_eff': 1 - 0.034 * worn } }],
      };
    },
    maintenance: [
      { gone: WASHED, kind: 'wash', words: 'Compressor washed, twice rinsed' },
      { gone: BATTERY_CHANGED, kind: 'battery', words: 'Battery changed at its calendar limit' },
    ],
  },
  {
    // its battery dies, slowly and then faster
    tail: 'QV-COR',
    share: 0.55,
    through: 0.28,
    aged: (gone) => ({ conditions: { batt_age: 1.05 + 0.25 * gone + 0.6 * Math.max(0, gone - 0.35) }, faults: [] }),
    maintenance: [],
  },
  {
    // nothing ever happened to it, until yesterday
    tail: 'QV-STR',
    share: 0.32,
    through: 0.28,
    aged: healthy,
    maintenance: [],
    lastFlight: {
      faults: [{ when: { sig: 'e2.ng_true', op: '>=', val: 80 }, set: { 'fault.e2.oil_pump_fail': 1 } }],
      words: 'oil pressure of engine 2 lost in the run-up',
      endsAt_s: 342,
    },
  },
  { tail: 'QV-TRN', share: 0.2, through: 0.28, aged: healthy, maintenance: [] },
  { tail: 'QV-ERN', share: 0.2, through: 0.28, aged: healthy, maintenance: [] },
];
