import { libraryIn, readFolder } from '@rouse/aircraft';
import { compileType, setMember, writtenItems, YamlTexts } from '@rouse/core/authoring';
import { describe, expect, test } from 'vitest';
import { linesOf, partsOf } from '../src/features/types/editor/parts.ts';
import { type LegRow, shownOf } from '../src/features/types/editor/shown.ts';
import type { DraftType } from '../src/features/types/editor/use-draft.ts';

const folder = readFolder('aircraft/strath-x14')!;
const LEG = 'procedure/before-start.yaml';

/** A draft as the worker of the editor tells it. */
function compiled(files: Readonly<Record<string, string>>): DraftType {
  const { type, problems, placeOf } = compileType(files, libraryIn('aircraft'), new YamlTexts());
  const places = (type?.items ?? []).map((_, i) => placeOf(['items', i])).map(({ file, line }) => `${file}:${line}`);
  const itemsIn = (file: string): number[][] =>
    writtenItems(files[file]!).map(({ line }) => places.flatMap((p, i) => (p === `${file}:${line}` ? [i] : [])));
  return { n: 1, type, problems, items: { [LEG]: itemsIn(LEG) } };
}

const whole = compiled(folder);
const rowOf = (text: string, id: string, draft: DraftType): LegRow => {
  const rows = writtenItems(text).map((row, i): LegRow => ({ ...row, items: draft.items[LEG]?.[i] ?? [] }));
  return rows.find((r) => Object.values(r.fields).includes(id))!;
};

describe('the parts of a draft', () => {
  test('stand in the order in which a type is read, its legs in the order in which they are worked', () => {
    const parts = partsOf(folder, whole);
    expect(parts.map((p) => p.file).toSorted()).toEqual(Object.keys(folder).toSorted());
    expect(parts[0]).toMatchObject({ file: 'type.yaml', as: 'form' });
    const legs = parts.filter((p) => p.inProcedure);
    expect(legs.map((p) => p.label)).toEqual(whole.type!.legs.map((l) => l.label));
    // as long as nothing is compiled, every leg is there under the name of its file
    expect(partsOf(folder, null).filter((p) => p.inProcedure)).toHaveLength(legs.length);
  });

  test('say how much they hold, and how much is wrong in each', () => {
    const files = { ...folder, 'captions.csv': '# what lights\nid,label\none,One\n\ntwo,Two\n' };
    const lines = linesOf(partsOf(folder, whole), files, whole);
    const of = (file: string) => lines.find((l) => l.file === file)!;
    expect(of('captions.csv').count).toBe(2);
    expect(of(LEG).count).toBe(whole.items[LEG]!.length);
    expect(of('wind.yaml').count).toBeNull();
    expect(lines.every((l) => l.wrong === 0)).toBe(true);
    const spoiled = { ...folder, [LEG]: folder[LEG]!.replaceAll('bus.volts', 'bus.vols') };
    const draft = compiled(spoiled);
    const wrong = linesOf(partsOf(spoiled, draft), spoiled, draft).filter((l) => l.wrong > 0);
    expect(wrong.map((l) => l.file)).toEqual([LEG]);
    expect(wrong[0]!.wrong).toBe(draft.problems.length);
  });
});

describe('a line of a leg', () => {
  test('shows at once what was typed, and what it senses as it was compiled last', () => {
    const row = rowOf(folder[LEG]!, 'apu-speed', whole);
    const item = whole.type!.items[row.items[0]!]!;
    expect(shownOf(row, whole.type)).toMatchObject({
      id: 'apu-speed',
      challenge: item.challenge,
      zone: item.zone,
      sensedBy: 'apu.speed',
      failure: 'no-go',
    });
    const typed = setMember(folder[LEG]!, [...row.path, 'line'], 'Auxiliary speed — at least 97 %');
    const now = shownOf(rowOf(typed, 'apu-speed', whole), whole.type);
    expect([now.challenge, now.response]).toEqual(['Auxiliary speed', 'at least 97 %']);
    expect(now.sensedBy).toBe('apu.speed');
  });

  test('of a standard item shows what the library says, until something stands beside it', () => {
    const row = rowOf(folder[LEG]!, 'breakers', whole);
    const shown = shownOf(row, whole.type);
    expect(shown.why.length).toBeGreaterThan(20);
    expect(shown.challenge).toBe('Circuit breakers');
    const typed = setMember(folder[LEG]!, [...row.path, 'why'], 'Ours are behind the seat.');
    expect(shownOf(rowOf(typed, 'breakers', whole), whole.type)).toMatchObject({ ...shown, why: 'Ours are behind the seat.' }); // oxfmt-ignore
  });

  test('is what is written where nothing could be compiled yet', () => {
    const row = { ...rowOf(folder[LEG]!, 'apu-speed', whole), items: [] };
    expect(shownOf(row, null)).toMatchObject({ challenge: 'Auxiliary unit speed', response: 'at least 96 %', kind: 'check', sensedBy: '' }); // oxfmt-ignore
  });
});
