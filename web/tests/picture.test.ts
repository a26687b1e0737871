import { shippedType } from '@rouse/aircraft';
import { needWatched, PHASES } from '@rouse/core/aircraft';
import { itemState, presentItem, reduceRun, type RunState } from '@rouse/core/procedure';
import { expect, test } from 'vitest';
import { pictureOf } from '../src/charts/live/picture.ts';

const type = needWatched(shippedType(process.cwd(), 'skerry-s7')!);

/** A run in which everything is done but one item. */
function openAt(id: string): RunState {
  const none = { ...reduceRun([]), status: 'open' as const };
  const done = { ...itemState(none, id), status: 'done' as const };
  const others = type.items.filter((i) => i.id !== id).map((i) => [i.id, done] as const);
  return { ...none, items: Object.fromEntries(others) };
}

test('the list decides the picture: a check is drawn while it is the present item', () => {
  const measured = type.items.filter((i) => i.kind === 'measure' && i.trace);
  const drawn = measured.filter((i) => presentItem(type, openAt(i.id))?.id === i.id);
  expect(drawn.length).toBeGreaterThan(2);
  for (const { id } of drawn) expect(pictureOf({ type, state: openAt(id) }, 'list', 'flight')).toBe('check');
});

test('where the list is to be known by heart, no picture depends on it', () => {
  for (const phase of PHASES) {
    const drawn = new Set(type.items.map((i) => pictureOf({ type, state: openAt(i.id) }, 'engine', phase)));
    expect([...drawn]).toEqual([phase === 'off' || phase === 'start' ? 'start' : 'needles']);
  }
});
