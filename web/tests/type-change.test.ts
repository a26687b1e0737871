import type { TypeFile } from '@rouse/core/aircraft';
import { expect, test } from 'vitest';
import { types } from '../../tests/skerry.ts';
import { afterChange, type TypeChange, TypeSender } from '../src/features/types/editor/type-change.ts';

/** As a message between threads arrives. */
const sent = (change: TypeChange): TypeChange => structuredClone(change);

test('a type arrives whole, whatever is changed in it, and only what is new is sent', () => {
  const type = types.find((t) => t.id === 'H9')!;
  const sender = new TypeSender();
  let page: TypeFile | null = null;
  const send = (next: TypeFile): TypeChange => {
    const change = sent(sender.changeTo(next));
    page = afterChange(page, change);
    expect(page).toEqual(next);
    return change;
  };
  expect(send(type).items).toEqual(type.items);

  const [first, second, ...others] = type.items;
  const touched = { ...type, items: [second!, { ...first!, why: 'another reason' }, ...others] };
  const before: TypeFile = page!;
  const { parts, items } = send(touched);
  expect(parts).toEqual({});
  expect(items.filter((item) => typeof item !== 'number')).toEqual([touched.items[1]]);
  // what did not change is not another object: nothing that shows it has to be drawn again
  expect(page!.items[0]).toBe(before.items[1]);
  expect(page!.limits).toBe(before.limits);

  const { simulator: _, ...still } = touched;
  expect(send({ ...still, name: 'Haugh H10', items: touched.items.slice(3) })).toMatchObject({
    parts: { name: 'Haugh H10' },
    gone: ['simulator'],
  });
  expect(send(touched).parts).toHaveProperty('simulator');
});
