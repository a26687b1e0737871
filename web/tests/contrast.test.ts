import { describe, expect, test } from 'vitest';
import { lights } from '../src/app/theme.ts';

const text = [lights]
  .flat(9)
  .filter((part) => typeof part === 'string')
  .join('');
const LIGHTS = ['day', 'night', 'sun'] as const;

function coloursOf(light: (typeof LIGHTS)[number]): Record<string, string> {
  const [, block] = new RegExp(`data-light='${light}'\\]\\s*\\{([^}]*)\\}`).exec(text)!;
  return Object.fromEntries([...block!.matchAll(/--([\w-]+):\s*(#[0-9a-f]{6})/g)].map(([, name, is]) => [name, is]));
}

/** WCAG 2: relative luminance of an sRGB colour, 0 to 1. */
function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const part = parseInt(colour.slice(at, at + 2), 16) / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
}

const PAPERS: Record<string, readonly string[]> = {
  ink: ['paper', 'sheet', 'deep', 'usual1', 'now-paper', 'caution-paper', 'warning-paper', 'limit-fill', 'band1', 'band2'],
  'limit-ink': ['paper', 'sheet', 'band1', 'band2'],
  now: ['paper', 'sheet', 'now-paper'],
  'on-now': ['now'],
  caution: ['paper', 'sheet', 'caution-paper'],
  warning: ['paper', 'sheet', 'warning-paper'],
}; // oxfmt-ignore

describe.each(LIGHTS)('%s', (light) => {
  const colours = coloursOf(light);
  test.each(Object.keys(PAPERS))('a figure in %s stands out 7 to 1 from whatever it is written on', (ink) => {
    for (const paper of PAPERS[ink]!) {
      const [less, more] = [colours[ink]!, colours[paper]!].map(luminance).toSorted((a, b) => a - b);
      expect((more! + 0.05) / (less! + 0.05), `${ink} on ${paper}`).toBeGreaterThanOrEqual(7);
    }
  });
});

test('no colour of the night is brighter than three fifths of white', () => {
  for (const [name, colour] of Object.entries(coloursOf('night')))
    expect(luminance(colour), name).toBeLessThanOrEqual(0.6);
});
