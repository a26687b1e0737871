import { libraryIn, readFolder } from '@rouse/aircraft';
import { auditType } from '@rouse/core/audit';
import { compileType, YamlTexts } from '@rouse/core/authoring';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { tries } from '../whole.ts';

const library = libraryIn('aircraft');

/** What a person may do at one place of a file: a digit, a letter, a name that is gone, a line taken out or doubled. */
const CHANGES: readonly ((line: string) => string)[] = [
  (line) => line.replace(/\d/, (d) => String((Number(d) + 1) % 10)),
  (line) => line.replace(/[a-z](?=[a-z]*$)/, 'x'),
  (line) => line.replace(/\b1\b/, '{n}'),
  () => '',
  (line) => `${line}\n${line}`,
  (line) => `${line} `,
];

test.each(['haugh-h9', 'tarn-t2i'])(
  '%s: what an editor keeps between keys says the same as reading everything anew',
  (name) => {
    const written = readFolder(`aircraft/${name}`)!;
    const files = Object.keys(written);
    const change = fc.record({ file: fc.nat(), line: fc.nat(), how: fc.nat(CHANGES.length - 1) });
    fc.assert(
      fc.property(fc.array(change, { minLength: 2, maxLength: 4 }), (changes) => {
        const texts = new YamlTexts();
        const folder: Record<string, string> = { ...written };
        for (const { file, line, how } of changes) {
          const place = files[file % files.length]!;
          const lines = folder[place]!.split('\n');
          const at = line % lines.length;
          folder[place] = lines.with(at, CHANGES[how]!(lines[at]!)).join('\n');
          const kept = compileType(folder, library, texts);
          const anew = compileType(folder, library);
          expect(kept.problems).toEqual(anew.problems);
          expect(kept.type).toEqual(anew.type);
          expect(kept.type && auditType(kept.type)).toEqual(anew.type && auditType(anew.type));
          // most changes break something: half of them are taken back
          if (line % 2 === 0) folder[place] = written[place]!;
        }
      }),
      { numRuns: tries(6), seed: 11 },
    );
  },
);
