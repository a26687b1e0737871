import { needWatched } from '@rouse/core/aircraft';
import { readStick, reaching, stickShare, USUAL_STICK, whyNotKey, withOwnKeys } from '@rouse/core/drill';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fleet, typeOf } from '../fleet.ts';

const cockpit = needWatched(typeOf('S7')).cockpit!;
const keyOf = (controls: typeof cockpit, id: string): string => controls.find((c) => c.id === id)!.key;

describe('keys of one’s own', () => {
  test('a free key is taken; two that change places both do', () => {
    expect(keyOf(withOwnKeys(cockpit, { boost: 'q' }), 'boost')).toBe('q');
    const three = { boost: 'q', generator: keyOf(cockpit, 'boost') };
    expect(withOwnKeys(cockpit, three).filter((c) => c.id in three).map((c) => c.key)).toEqual([three.generator, 'q']); // oxfmt-ignore
  });

  test('one that is taken, means something else, or is no key is refused with what to do', () => {
    expect(whyNotKey(cockpit, 'boost', keyOf(cockpit, 'generator'))).toMatch(/moves Generator already/);
    expect(whyNotKey(cockpit, 'boost', 'h')).toMatch(/means something else/);
    expect(whyNotKey(cockpit, 'boost', 'Enter')).toMatch(/letter from a to z/);
    expect(whyNotKey(cockpit, 'boost', keyOf(cockpit, 'boost'))).toBeNull();
  });

  test.each(fleet.filter((t) => t.cockpit).map((t) => [t.id, t.cockpit!] as const))('%s: whatever was kept, no two controls share a key and none is lost', (_, controls) => {
    const key = fc.oneof(fc.constantFrom(...'abcdefghijklmnopqrstuvwxyz0123456789?'.split('')), fc.string({ maxLength: 2 }));
    const kept = fc.dictionary(fc.constantFrom(...controls.map((c) => c.id), 'gone'), key);
    fc.assert(
      fc.property(kept, (own) => {
        const bound = withOwnKeys(controls, own);
        return new Set(bound.map((c) => c.key)).size === controls.length && bound.every((c, i) => c.id === controls[i]!.id);
      }),
      { numRuns: 60 },
    );
    expect(withOwnKeys(controls, {})).toEqual(controls);
  }); // oxfmt-ignore
});

describe('a stick', () => {
  test('pulled up is more, from end to end, and never beyond', () => {
    fc.assert(
      fc.property(fc.double({ min: -2, max: 2, noNaN: true }), fc.double({ min: 1, max: 3, noNaN: true }), (shown, curve) => {
        const share = stickShare(shown, { ...USUAL_STICK, curve });
        expect(share).toBeGreaterThanOrEqual(0);
        expect(share).toBeLessThanOrEqual(1);
        expect(stickShare(shown - 0.1, { ...USUAL_STICK, curve })).toBeGreaterThanOrEqual(share);
      }),
    );
    expect([1, 0, -1].map((v) => stickShare(v, USUAL_STICK))).toEqual([0, 0.5, 1]);
    expect(stickShare(0, { ...USUAL_STICK, curve: 2 })).toBeCloseTo(0.25, 9);
  }); // oxfmt-ignore

  test('what it shows beyond its ends becomes its end', () => {
    expect(reaching(0.3, USUAL_STICK)).toBe(USUAL_STICK);
    expect(reaching(-1.2, USUAL_STICK)).toMatchObject({ least: -1.2, most: 1 });
  });

  test('what was kept comes back; nonsense does not', () => {
    const own = { axis: 2, least: -0.9, most: 0.8, dead: 0.1, curve: 2 };
    expect(readStick(JSON.stringify(own))).toEqual(own);
    for (const kept of [null, '', '-1.2 1', '{"least":1}', '{"dead":9}', '{"curve":null}', '{"axis":-1}', '[]'])
      expect(readStick(kept)).toEqual(USUAL_STICK);
  });
});
