import { readFileSync } from 'node:fs';
import { libraryIn, readFolder } from '@rouse/aircraft';
import { compileType, sayProblem, YamlTexts } from '@rouse/core/authoring';
import { expect, test } from 'vitest';
import { GALLERY, spoil } from './gallery.ts';

const library = libraryIn('aircraft');
const skerry = readFolder('aircraft/skerry-s7')!;
/** as an editor has them: what was not touched is not read again */
const texts = new YamlTexts();

/** What the compiler says of each of them: a title, then up to five lines. */
const said = new Map(
  readFileSync(new URL('gallery.txt', import.meta.url), 'utf8')
    .split('## ')
    .slice(1)
    .map((part) => {
      const [name, ...lines] = part.trimEnd().split('\n');
      return [name!, lines] as const;
    }),
);

test('sixty ways to be wrong at least, and each has its words', () => {
  expect(Object.keys(GALLERY).length).toBeGreaterThanOrEqual(60);
  expect([...said.keys()]).toEqual(Object.keys(GALLERY));
});

test.each(Object.entries(GALLERY))('%s: file, line, column, what is wrong and what to do', (name, wrong) => {
  const { type, problems } = compileType(spoil(skerry, wrong), library, texts);
  expect(type).toBeNull();
  const lines = problems.slice(0, 5).map(sayProblem);
  expect([...lines, ...(problems.length > 5 ? [`… ${problems.length}`] : [])]).toEqual(said.get(name));
});

test('the same folder with nothing wrong is a type', () => {
  expect(compileType(skerry, library)).toMatchObject({ problems: [], type: { id: 'S7' } });
});
