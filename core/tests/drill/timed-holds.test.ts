import { lessonsOf } from '@rouse/aircraft';
import { needWatched } from '@rouse/core/aircraft';
import { DrillFlight, type Lesson } from '@rouse/core/drill';
import { itemState } from '@rouse/core/procedure';
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';
import { drillOf } from './drill-of.ts';

/** A lesson from one item to another, begun where the first is present. */
function at(id: string, day: string, from: string, until: string = from): DrillFlight {
  const type = needWatched(typeOf(id));
  const [shipped] = lessonsOf(process.cwd(), type).lessons;
  const lesson: Lesson = { ...shipped!, way: 'learn', day, from, until, faults: [] };
  const flight = new DrillFlight(drillOf(type, lesson));
  expect(flight.present?.id).toBe(from);
  return flight;
}

function fly(flight: DrillFlight, seconds: number): void {
  for (const end_s = flight.t_s + seconds; flight.t_s < end_s && flight.step(););
}

describe('what is pressed and held', () => {
  const type = typeOf('T2');
  const item = type.items.find((i) => i.kind === 'hold' && i.standIn?.some((a) => a.control === 'primer'))!;
  const asked_s = item.kind === 'hold' ? item.hold_s : NaN;

  test('is not done by a look, nor by a hand that lets go too early; it is by one that held it', () => {
    const flight = at('T2', 'mild', item.id);
    flight.act({ kind: 'look', item: item.id });
    fly(flight, asked_s + 2);
    expect(flight.present?.id).toBe(item.id);
    flight.act({ kind: 'move', control: 'primer', to: 1 });
    fly(flight, asked_s / 2);
    flight.act({ kind: 'move', control: 'primer', to: 0 });
    expect(flight.notes.map((n) => [n.kind, n.words])).toEqual([
      ['refused', expect.stringMatching(/hold for .* it was /)],
    ]);
    flight.act({ kind: 'move', control: 'primer', to: 1 });
    fly(flight, asked_s + 4);
    flight.act({ kind: 'move', control: 'primer', to: 0 });
    const { status, value } = itemState(flight.session.state, item.id);
    expect(status).toBe('done');
    expect(value).toBeCloseTo(asked_s + 4, 1);
  });

  test('what no control is held for counts its own seconds from the look on', () => {
    const purge = typeOf('T2i').items.find((i) => i.id === 'purge')!;
    const flight = at('T2i', 'warm-engine', 'hot-engine', purge.id);
    flight.act({ kind: 'look', item: 'hot-engine', alternative: 'hot' });
    expect(flight.present?.id).toBe(purge.id);
    flight.act({ kind: 'look', item: purge.id });
    fly(flight, 39);
    expect(itemState(flight.session.state, purge.id).status).toBe('todo');
    flight.act({ kind: 'look', item: purge.id });
    fly(flight, 2);
    expect(itemState(flight.session.state, purge.id)).toMatchObject({ status: 'done' });
    expect(flight.notes).toEqual([]);
  });
});
