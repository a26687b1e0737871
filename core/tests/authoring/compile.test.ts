import { parse } from 'yaml';
import { folderNames, libraryIn, readFolder } from '@rouse/aircraft';
import { authoredJsonSchema, compileType, type TypeFolder, WRITTEN } from '@rouse/core/authoring';
import { describe, expect, test } from 'vitest';
import { typeOf } from '../fleet.ts';

const DIR = 'aircraft';
const library = libraryIn(DIR);
const names = folderNames(DIR);
const folderOf = (name: string): TypeFolder => readFolder(`${DIR}/${name}`)!;
const haugh = folderOf('haugh-h9');

/** The type of a changed folder, which has to be whole. */
function compiled(folder: TypeFolder) {
  const { type, problems } = compileType(folder, library);
  expect(problems).toEqual([]);
  return type!;
}

const changed = (folder: TypeFolder, file: string, from: string, to: string): TypeFolder => {
  expect(folder[file]).toContain(from);
  return { ...folder, [file]: folder[file]!.replace(from, () => to) };
};

describe('the shipped folders', () => {
  test.each(names)('%s takes an evening: at most 1,200 lines in all its files', (name) => {
    const lines = Object.values(folderOf(name)).join('').split('\n').length;
    expect(lines).toBeLessThanOrEqual(1200);
  });

  test.each(names)('%s is written as the schema for code editors says', (name) => {
    for (const [file, text] of Object.entries(folderOf(name)).filter(([f]) => f.endsWith('.yaml'))) {
      const schema = file.startsWith('procedure/') ? WRITTEN.procedure : WRITTEN[file as keyof typeof WRITTEN];
      const result = schema.safeParse(parse(text));
      expect(result.error?.issues.map((i) => `${file} ${i.path.join('.')}: ${i.message}`) ?? []).toEqual([]);
    }
  });

  test('every file has a schema that can be printed', () => {
    for (const file of Object.keys(WRITTEN)) expect(authoredJsonSchema(file)).toHaveProperty('$schema');
    expect(authoredJsonSchema('nothing.yaml')).toBeUndefined();
  });
});

describe('written once', () => {
  test('for each engine: items, names, conditions, rows of tables', () => {
    const type = compiled(haugh);
    const residual = type.items.filter((i) => i.id.startsWith('residual-')).map((i) => i.id);
    expect(residual.slice(0, 2)).toEqual(['residual-1', 'residual-2']);
    expect(type.items.find((i) => i.id === 'selectors-off')).toMatchObject({
      expect: {
        all: [
          { channel: 'engine.1.selector', is: 0 },
          { channel: 'engine.2.selector', is: 0 },
        ],
      },
    });
    expect(type.channels.filter((c) => c.id.startsWith('tot.')).map((c) => [c.id, c.engine])).toEqual([
      ['tot.1', 1],
      ['tot.2', 2],
    ]);
  });

  test('a plan of an abort is done engine by engine, and only for the start that was stopped', () => {
    const ids = typeOf('X14').aborts.hot!.actions.map((a) => [a.id, a.forWatch]);
    expect(ids.slice(0, 2)).toEqual([
      ['hot-1-selector-off', 'engine-1-start'],
      ['hot-1-fuel-closed', 'engine-1-start'],
    ]);
    expect(ids.at(-1)).toEqual(['hot-apu-off', 'apu-start']);
    expect(typeOf('S7').aborts.hot!.actions[0]!.id).toBe('hot-selector-off');
  });

  test('for each of several names', () => {
    const twice = changed(
      haugh,
      'procedure/lift.yaml',
      'items:\n',
      'items:\n  - forEach: [{ side: left, at: 1 }, { side: right, at: 2 }]\n    items:\n      - check: door-{side}\n        zone: cabin\n        line: Door {side} — closed\n        hands_s: "{at}"\n        why: It opens.\n        note: It swings.\n',
    );
    const items = compiled(twice).items.filter((i) => i.id.startsWith('door-'));
    expect(items.map((i) => [i.challenge, i.hands_s])).toEqual([
      ['Door left', 1],
      ['Door right', 2],
    ]);
  });

  test('a zone stands over the items that follow', () => {
    const zones = typeOf('S7')
      .items.filter((i) => i.leg === 'run-up')
      .map((i) => [i.id, i.zone]);
    expect(zones.slice(0, 3)).toEqual([
      ['selector-flight', 'overhead'],
      ['run-up', 'centre panel'],
      ['hydraulics', 'centre panel'],
    ]);
  });
});

describe('a type that extends another', () => {
  const base = folderOf('tarn-t2');
  const own: TypeFolder = { 'type.yaml': 'extends: tarn-t2\nid: T3\nversion: 1\nname: Tarn T3\n' };

  test('is the same where it says nothing', () => {
    const { id, name, ...others } = compiled(own);
    expect({ id, name }).toEqual({ id: 'T3', name: 'Tarn T3' });
    expect(others).toMatchObject({ items: typeOf('T2').items, limits: typeOf('T2').limits });
  });

  test('changes, takes away, adds after and before', () => {
    const type = compiled({
      ...own,
      'procedure/lift.yaml':
        'items:\n  - { remove: power }\n  - { set: frictions-off, needs: null }\n  - { call: ready, why: Because., needs: null }\n  - check: ground\n    zone: outside\n    line: Ground — level\n    why: It tips.\n    caution: It tips over.\n    before: ready\n',
      'electrical.csv': 'id,label,amps\nnavigation,Navigation,7\n',
    });
    const lift = type.items.filter((i) => i.leg === 'lift');
    expect(lift.map((i) => i.id)).toEqual(['frictions-off', 'beside', 'ground', 'ready']);
    expect(lift[3]).toMatchObject({ why: 'Because.', challenge: 'Ready for lift' });
    expect(type.electricalLoads.find((l) => l.id === 'navigation')?.amps).toBe(7);
  });

  test('an item that is not there to be taken away is named with its place', () => {
    const { problems } = compileType({ ...own, 'procedure/lift.yaml': 'items:\n  - { remove: powr }\n' }, library);
    expect(problems[0]).toMatchObject({ file: 'procedure/lift.yaml', line: 2 });
  });

  test('what is wrong in the other one is named with its folder; a ring is broken', () => {
    const broken = changed(base, 'wind.yaml', 'rotor_kt', 'rotor_knots');
    const { problems } = compileType(own, (name) => (name === 'tarn-t2' ? broken : library(name)));
    expect(problems.map((p) => p.file)).toContain('../tarn-t2/wind.yaml');
    const ring = compileType({ 'type.yaml': 'extends: a\n' }, () => ({ 'type.yaml': 'extends: a\n' }));
    expect(ring.problems[0]!.message).toBe('a extends itself');
  });
});

describe('a standard item', () => {
  test('is taken with its figures, and changed in a field', () => {
    const { items } = typeOf('S7');
    expect(items.find((i) => i.id === 'anti-ice')).toMatchObject({
      trace: { stages: [{ expect: { all: [{}, { between: [97, 102.5] }] } }, {}, {}] },
    });
    const quiet = changed(folderOf('skerry-s7'), 'procedure/run-up.yaml', '{ use: autopilot, needs: heater }', '{ use: autopilot, needs: heater, note: Nothing. }'); // oxfmt-ignore
    expect(compiled(quiet).items.find((i) => i.id === 'autopilot')).toMatchObject({ failure: 'note', ifSkipped: 'Nothing.' }); // oxfmt-ignore
  });
});

test('remarks, blanks and the order of fields change nothing', () => {
  const wind = folderOf('skerry-s7')['wind.yaml']!;
  const other = {
    ...folderOf('skerry-s7'),
    'wind.yaml': `# why\n\n${wind.replaceAll('\n', '   # so it is\n')}`,
  };
  expect(compiled(other)).toEqual(typeOf('S7'));
});
