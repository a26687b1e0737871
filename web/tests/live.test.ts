import { shippedType } from '@rouse/aircraft';
import { needWatched } from '@rouse/core/aircraft';
import { describe, expect, test } from 'vitest';
import { lanesOf } from '../src/charts/live/lane.ts';
import { placeMarks } from '../src/charts/live/mark-rows.ts';
import { linearScale } from '../src/charts/scale.ts';

const trainer = needWatched(shippedType(process.cwd(), 'tarn-t2')!);

describe('lanes', () => {
  test('channels of one unit share a lane, in the order in which they are named', () => {
    const lanes = lanesOf(trainer, [
      { channel: 'engine.rpm', window: [75, 80] },
      { channel: 'carburettor.air' },
      { channel: 'nr', edge: { at: 38, words: 'dies' } },
    ]);
    expect(lanes.map((l) => [l.unit, l.lines.map((x) => x.channel.id)])).toEqual([
      ['%', ['engine.rpm', 'nr']],
      ['°C', ['carburettor.air']],
    ]);
    expect(lanes[0]!.windows).toEqual([[75, 80]]);
    expect(lanes[0]!.edges).toEqual([{ at: 38, words: 'dies' }]);
    expect(lanes[0]!.lines[0]!.colour).not.toBe(lanes[0]!.lines[1]!.colour);
  });

  test('every check of the trainer shows channels that it has', () => {
    const shown = trainer.items.flatMap((i) =>
      i.kind === 'measure' && i.trace ? [lanesOf(trainer, i.trace.shows)] : [],
    );
    expect(shown.length).toBeGreaterThan(5);
    expect(shown.map((lanes) => lanes.length)).not.toContain(0);
  });
});

describe('marks over a drawing', () => {
  const x = linearScale([0, 60], [0, 600]);

  test('words never run into each other; what finds no row is a line without words', () => {
    const marks = [0, 1, 2, 3, 30].map((t_s) => ({ t_s, words: 'Hand still on it' }));
    const placed = placeMarks(marks, x);
    expect(placed.map((m) => m.at)).toEqual([0, 10, 20, 30, 300]);
    expect(placed.map((m) => m.words !== null)).toEqual([true, true, true, false, true]);
    for (const row of [0, 1, 2]) {
      const inRow = placed.filter((m) => m.words !== null && m.row === row);
      inRow.slice(1).forEach((m, i) => expect(m.at - inRow[i]!.at).toBeGreaterThan(7 * inRow[i]!.words!.length));
    }
  });

  test('long words are cut, not the drawing', () => {
    const [mark] = placeMarks([{ t_s: 5, words: 'Throttle slowly closed until the horn sounds' }], x);
    expect(mark!.words!.length).toBeLessThanOrEqual(18);
    expect(mark!.words).toMatch(/…$/);
  });
});
