import type { Today, TypeDraft, TypeDraftRow } from '@rouse/core/contract';
import type { TypeFile } from '@rouse/core/aircraft';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { Caller, Rouse, skerry } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
beforeAll(async () => {
  rouse = await Rouse.start();
  call = new Caller(rouse.base);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

const begin = async (like: string, more: object = {}): Promise<TypeDraftRow> => {
  const { status, body } = await call.post('/types/drafts', { like, ...more });
  expect(status).toBe(201);
  return body as unknown as TypeDraftRow;
};
const read = (draft: string, since = -1): Promise<TypeDraft> => call.get(`/types/drafts/${draft}?since=${since}`);
const textOf = (draft: TypeDraft, file: string): string => draft.edits.find((e) => e.file === file)!.text!;
const write = (draft: string, file: string, text: string, seen: number) =>
  call.put(`/types/drafts/${draft}/files`, { file, text, seen });

/** Changes a word of a file, having seen it as it is. */
async function change(draft: string, file: string, from: string, to: string): Promise<number> {
  const now = await read(draft);
  const text = textOf(now, file);
  expect(text).toContain(from);
  const { status, body } = await write(draft, file, text.replace(from, to), now.revision);
  expect(status).toBe(200);
  return (body as unknown as { revision: number }).revision;
}

describe('a draft', () => {
  test('begins like a shipped type, as its next version, with every file as it is written', async () => {
    const draft = await begin('skerry-s7');
    const next = skerry.version + 1;
    expect(draft).toMatchObject({ typeId: 'S7', version: next, basedOn: skerry.version, status: 'open', begunBy: 'M. Aske' }); // oxfmt-ignore
    const whole = await read(draft.draft);
    expect(whole.edits.length).toBeGreaterThan(20);
    expect(textOf(whole, 'type.yaml')).toContain(`version: ${next}`);
    expect(textOf(whole, 'type.yaml')).toContain('# Skerry S7: what it is');
    expect((await call.get<TypeDraftRow[]>('/types/drafts')).map((d) => d.draft)).toContain(draft.draft);
  });

  test('a new type has an id and a name of its own, and none that is taken', async () => {
    const draft = await begin('corrie-c5', { id: 'L1', name: 'Larch L1' });
    expect(draft).toMatchObject({ typeId: 'L1', version: 1, basedOn: null, name: 'Larch L1' });
    expect(textOf(await read(draft.draft), 'type.yaml')).toMatch(/^id: L1$/m);
    const taken = await call.post('/types/drafts', { like: 'corrie-c5', id: 'S7' });
    expect(taken).toMatchObject({ status: 400, body: { error: { path: 'id' } } });
    for (const wrong of [{ like: '../server' }, { like: 'nothing' }, { like: 'corrie-c5', id: 'no good' }, {}])
      expect((await call.post('/types/drafts', wrong)).status).toBe(400);
  });

  test('keeps every edit, tells what changed since, and takes edits back one by one without end', async () => {
    const { draft } = await begin('skerry-s7');
    const before = textOf(await read(draft), 'wind.yaml');
    const first = await change(draft, 'wind.yaml', 'gust_spread: 18', 'gust_spread: 17');
    const second = await change(draft, 'wind.yaml', 'gust_spread: 17', 'gust_spread: 16');
    expect((await read(draft, first)).edits.map((e) => [e.file, e.revision])).toEqual([['wind.yaml', second]]);
    await call.post(`/types/drafts/${draft}/undo`, {});
    expect(textOf(await read(draft), 'wind.yaml')).toContain('gust_spread: 17');
    await call.post(`/types/drafts/${draft}/undo`, {});
    expect(textOf(await read(draft), 'wind.yaml')).toBe(before);
    expect((await call.post(`/types/drafts/${draft}/undo`, {})).status).toBe(422);
    // what was taken back can be changed and taken back again
    await change(draft, 'wind.yaml', 'gust_spread: 18', 'gust_spread: 12');
    await call.post(`/types/drafts/${draft}/undo`, {});
    expect(textOf(await read(draft), 'wind.yaml')).toBe(before);
  });

  test('of two people who change one file, the second is told and given what the first has written', async () => {
    const { draft } = await begin('skerry-s7');
    const { revision, edits } = await read(draft);
    const text = edits.find((e) => e.file === 'wind.yaml')!.text!;
    await write(draft, 'wind.yaml', `${text}# one\n`, revision);
    const other = await write(draft, 'wind.yaml', `${text}# other\n`, revision);
    expect(other).toMatchObject({ status: 409, body: { error: { code: 'changed-meanwhile', edit: { text: `${text}# one\n` } } } }); // oxfmt-ignore
    // another file is another matter
    expect((await write(draft, 'loading.yaml', textOf(await read(draft), 'loading.yaml'), revision)).status).toBe(200);
  });

  test('a file that belongs in no type, and a text without end, are refused by name', async () => {
    const { draft } = await begin('skerry-s7');
    for (const file of ['../x.yaml', 'a/b.yaml', 'run.sh', 'procedure/../x.yaml'])
      expect(await write(draft, file, '', 0)).toMatchObject({ status: 400, body: { error: { path: 'file' } } });
    expect(await write(draft, 'wind.yaml', 'x'.repeat(50_000), 0)).toMatchObject({ status: 400 });
  });

  test('survives a server that is started anew', async () => {
    const { draft } = await begin('skerry-s7');
    await change(draft, 'wind.yaml', 'gust_spread: 18', 'gust_spread: 11');
    await rouse.program.stop();
    await rouse.launch();
    call = new Caller(rouse.base);
    expect(textOf(await read(draft), 'wind.yaml')).toContain('gust_spread: 11');
  });
});

describe('review and release', () => {
  test('with a problem there is no review, and each problem has its place', async () => {
    const { draft } = await begin('skerry-s7');
    await change(draft, 'limits.csv', 'start,above,770', 'start,over,770');
    const { status, body } = await call.post(`/types/drafts/${draft}/review`, {});
    expect(status).toBe(422);
    expect(body).toMatchObject({ error: { message: expect.stringContaining('limits.csv:3:25'), problems: [{ file: 'limits.csv' }] } }); // oxfmt-ignore
  });

  test('one sends, another releases; a tail flies it from its next run on, and can go back', async () => {
    const { draft } = await begin('tarn-t2');
    await change(draft, 'wind.yaml', 'gust_spread', 'gust_spread');
    await change(draft, 'procedure/lift.yaml', 'needs: power }', 'needs: power, why: Because the lift wants both hands. }'); // oxfmt-ignore
    const engineer = call.as('engineer');
    const release = (by = engineer) => by.post(`/types/drafts/${draft}/release`, {});
    expect((await release()).status).toBe(422);
    expect((await engineer.post(`/types/drafts/${draft}/review`, {})).status).toBe(200);
    const late = await write(draft, 'wind.yaml', '', 99);
    expect(late).toMatchObject({ status: 422, body: { error: { message: expect.stringContaining('in review') } } });
    expect((await release(call)).body.error?.code).toBe('no-right');
    const alone = await release();
    expect(alone).toMatchObject({ status: 422, body: { error: { message: expect.stringContaining('second person') } } }); // oxfmt-ignore
    await call.post(`/types/drafts/${draft}/reopen`, {});
    expect((await call.post(`/types/drafts/${draft}/review`, {})).status).toBe(200);
    const released = await release();
    expect(released).toMatchObject({ status: 201, body: { id: 'T2', version: 2 } });

    const type = await call.get<TypeFile>('/types/T2/2');
    expect(type.items.find((i) => i.id === 'frictions-off')!.why).toBe('Because the lift wants both hands.');
    const tail = (await call.get<Today>('/today')).aircraft.find((a) => a.tail === 'QV-TRN')!;
    expect(tail.type.version).toBe(1);
    const move = (version: number) =>
      call.as('administrator').put('/types/T2/tails', { aircraft: tail.aircraft, version });
    expect((await move(2)).status).toBe(200);
    const run = await call.open(tail.aircraft);
    expect((await call.detail(run)).type).toEqual({ id: 'T2', version: 2 });
    expect(await move(1)).toMatchObject({ status: 409, body: { error: { code: 'run-is-open' } } });
    await call.settle();
    expect((await move(1)).status).toBe(200);
    expect((await move(9)).status).toBe(404);
  });
});
