import type { StandInAction } from '../aircraft/index.ts';
import type { Payload } from '../procedure/index.ts';
import type { Act } from './act.ts';
import type { DrillFlight } from './drill-flight.ts';
import { PatientPilot } from './patient-pilot.ts';

const LOOK_EVERY_TICKS = 5;

export interface LearnerOptions {
  seed: number;
  /** gives up when the lesson is not over by then, s from its beginning */
  within_s?: number;
  /** what this learner does instead of an act; null leaves it out */
  instead?: (act: Act, flight: DrillFlight) => Act | null;
}

/** A learner who does everything right, as far as `instead` lets: acts on a drill through its cockpit as a person would. */
export function flyAsLearner(flight: DrillFlight, { seed, within_s = 1800, instead }: LearnerOptions): void {
  const act = (wanted: Act): string | null => {
    const noted = flight.notes.length;
    const done = instead ? instead(wanted, flight) : wanted;
    if (done) flight.act(done);
    const note = flight.notes.slice(noted).find((n) => n.kind === 'refused' || n.kind === 'early');
    return note?.words ?? null;
  };
  const letGo: { tick: number; control: string; to: number | string }[] = [];
  const move = (action: StandInAction): void => {
    const { when, after_s, release_s } = action;
    const meant = when || after_s !== undefined ? null : flight.hands.meantBy(action);
    if (!meant) return void act({ kind: 'simulated-hand', action });
    const { id, positions } = meant.control;
    act({ kind: 'move', control: id, to: meant.to });
    if (release_s !== undefined)
      letGo.push({ tick: flight.tick + Math.round(release_s * 50), control: id, to: positions[0]!.to });
  };
  const pilot = new PatientPilot(flight.type, { move, say: (payload) => act(actOf(payload)) }, { seed, through: 'shut-down' }); // oxfmt-ignore
  const end_s = flight.begun_s + within_s;
  while (flight.step() && flight.t_s < end_s) {
    for (let i = letGo.length - 1; i >= 0; i--) {
      if (flight.tick < letGo[i]!.tick) continue;
      const { control, to } = letGo.splice(i, 1)[0]!;
      act({ kind: 'move', control, to });
    }
    if (flight.tick % LOOK_EVERY_TICKS === 0 && !pilot.look(flight.t_s, flight.session)) flight.end();
  }
}

/** What a person would do in a cockpit who means to write this. */
function actOf(payload: Payload): Act {
  switch (payload.kind) {
    case 'item-done':
    case 'stage-done':
    case 'challenged':
      return { kind: 'look', item: payload.item };
    case 'decided':
      return { kind: 'look', item: payload.item, alternative: payload.alternative };
    case 'item-fault':
      return { kind: 'not-good', item: payload.item };
    case 'leg-begun':
      return { kind: 'leg', leg: payload.leg };
    default:
      throw new RangeError(`a learner cannot do ${payload.kind}`);
  }
}
