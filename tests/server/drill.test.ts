import { needWatched } from '@rouse/core/aircraft';
import { simulatedBrief } from '@rouse/core/brief';
import type { DrillKept, DrillMessage, LessonsOfType, LoggedTail, PersonLog, RunsPage } from '@rouse/core/contract';
import { type Act, bestHandOf, DrillFlight, flyAsLearner, marksOf } from '@rouse/core/drill';
import { v7 as uuidv7 } from 'uuid';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { PERSON } from '../caller.ts';
import { readPdf } from '../pdf.ts';
import { Caller, Rouse, skerry } from '../rouse.ts';

const type = needWatched(skerry);
const of = { id: type.id, version: type.version };
const page = `/drill/${type.id}/${type.version}`;
let rouse: Rouse;
let pilot: Caller;
beforeAll(async () => {
  rouse = await Rouse.start();
  pilot = new Caller(rouse.base);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

/** A lesson flown here, as a page would send it, and what it is worth. */
async function flown(id: string, instead: (act: Act) => Act | null = (act) => act) {
  const { lessons } = await pilot.get<DrillMessage>(page);
  const lesson = lessons.find((l) => l.id === id)!;
  const options = {
    type,
    lesson,
    seed: 11,
    brief: simulatedBrief(
      type,
      type.standIn.find((p) => p.id === lesson.day)!,
    ),
  };
  const flight = new DrillFlight(options);
  flyAsLearner(flight, { seed: 11, instead, within_s: 300 });
  const { acts, ended_s } = flight.flown();
  return {
    body: { id: uuidv7(), waited_s: 0, type: of, lesson: id, seed: 11, acts, ended_s },
    marks: marksOf(flight.flown(), bestHandOf(options)),
  };
}

describe('a drill', () => {
  test('is flown again and marked by the server, listed for who flew it, and due again', async () => {
    const { body, marks } = await flown('recall-start', (act) =>
      act.kind === 'look' && act.item === 'captions-cold' ? { kind: 'hint' } : act,
    );
    const { status, body: kept } = await pilot.post('/drill/flown', body);
    expect([status, kept.error?.message]).toEqual([201, undefined]);
    expect((kept as unknown as DrillKept).sum).toBe(marks.sum);
    const { flown: listed, due, costs } = await pilot.get<DrillMessage>(page);
    const hints = marks.losses.filter((l) => l.criterion === 'hints');
    expect(costs.reduce((sum, c) => sum + c.points, 0)).toBeCloseTo(
      marks.losses.reduce((sum, l) => sum + l.points, 0),
      6,
    );
    expect(costs.find((c) => c.of === hints[0]?.of)?.times).toBeGreaterThanOrEqual(hints.length);
    expect(listed[0]).toMatchObject({ lesson: 'recall-start', sum: marks.sum, worst: expect.arrayContaining([expect.any(String)]) }); // oxfmt-ignore
    expect(due.map((d) => d.lesson)).toEqual(['recall-start']);
    expect((await pilot.as('instructor').get<DrillMessage>(page)).flown).toEqual([]);
  });

  test('a round of abort or go is dealt again and decided by the server', async () => {
    const starts = [1, 2, 3].map((seed) => ({ seed, difficulty: 0.3, stopped_s: null }));
    const round = () =>
      pilot.post('/drill/rounds', { id: uuidv7(), waited_s: 0, type: of, lesson: 'abort-or-go', starts });
    const { status, body } = await round();
    expect(status).toBe(201);
    expect((body as unknown as DrillKept).sum).toBeLessThanOrEqual(100);
    const again = await round();
    expect((again.body as unknown as DrillKept).sum).toBe((body as unknown as DrillKept).sum);
  });

  test('that waited on a device is kept once, under the day on which it was flown', async () => {
    const { body } = await flown('fault-start');
    const send = { ...body, waited_s: 3 * 86_400 };
    const twice = [await pilot.post('/drill/flown', send), await pilot.post('/drill/flown', send)];
    expect(twice.map((a) => a.status)).toEqual([201, 201]);
    const kept = (await pilot.get<DrillMessage>(page)).flown.filter((d) => d.id === body.id);
    expect(kept).toHaveLength(1);
    expect((Date.now() - Date.parse(kept[0]!.at)) / 86_400_000).toBeCloseTo(3, 1);
    const others = await pilot.as('instructor').post('/drill/flown', body);
    expect([others.status, others.body.error?.code]).toEqual([409, 'id-used']);
    // nor does another drill hide behind one that is kept
    const other = await pilot.post('/drill/flown', { ...send, acts: send.acts.slice(1) });
    expect([other.status, other.body.error?.code]).toEqual([409, 'id-used']);
  });

  test('never becomes a run: no log, no book and no tail knows of it', async () => {
    const runs = async (): Promise<number> => (await pilot.get<RunsPage>('/log/runs')).runs.length;
    const tails = async (): Promise<unknown[]> =>
      (await pilot.get<LoggedTail[]>('/log/tails')).map((t) => [t.tail, t.runs, t.lastRunAt, t.openExceedances]);
    const me = async (): Promise<PersonLog> => pilot.get('/log/me');
    const before = [await runs(), await tails(), await me()];
    const { body } = await flown('fault-start');
    expect((await pilot.post('/drill/flown', body)).status).toBe(201);
    expect([await runs(), await tails(), await me()]).toEqual(before);
    // and a run cannot be passed off as one: there is nothing in a drill that names an aircraft
    const mixed = await pilot.post('/drill/flown', { ...body, aircraft: '0193a000-0000-7000-8000-000000000001' });
    expect(mixed.status).toBe(400);
  });

  test('an instructor signs it once, nobody signs their own, and the record carries it', async () => {
    const { body } = await flown('fault-start');
    const { id } = (await pilot.post('/drill/flown', body)).body as unknown as DrillKept;
    const notes = { notes: [{ t_s: 12.4, text: 'Hand on the selector earlier.' }] };
    expect((await pilot.post(`/drill/flown/${id}/signature`, notes)).status).toBe(403);
    const signed = await pilot.as('instructor').post(`/drill/flown/${id}/signature`, notes);
    expect(signed.status).toBe(200);
    expect((await pilot.as('instructor').post(`/drill/flown/${id}/signature`, notes)).status).toBe(404);
    const row = (await pilot.get<DrillMessage>(page)).flown.find((d) => d.id === id)!;
    expect(row.signed?.by).toBe((signed.body as { by?: string }).by);

    const pdf = await pilot.fetch('/drill/record.pdf');
    expect(pdf.headers.get('content-type')).toBe('application/pdf');
    const { text } = readPdf(new Uint8Array(await pdf.arrayBuffer()));
    expect(text).toMatch(/A start that is\s/);
    expect(text).toContain(row.signed!.by);
    expect((await pilot.fetch(`/log/people/${PERSON.instructor.personId}/training.pdf`)).status).toBe(403);
    const theirs = await pilot.as('instructor').fetch(`/log/people/${PERSON.pilot.personId}/training.pdf`);
    expect(theirs.status).toBe(200);
  });

  test('what is wrong with it is named', async () => {
    const { body } = await flown('fault-start');
    const post = async (change: object) => {
      const { status, body: answer } = await pilot.post('/drill/flown', { ...body, ...change });
      return [status, answer.error?.message] as const;
    };
    expect(await post({ lesson: 'to-the-moon' })).toEqual([404, 'S7 has no lesson named to-the-moon.']);
    expect(await post({ type: { id: 'Q1', version: 1 } })).toEqual([404, 'There is no type Q1 version 1.']);
    expect((await post({ ended_s: 1e9 }))[1]).toMatch(/ended_s/);
    const strange = [{ tick: body.acts[0]!.tick, act: { kind: 'move', control: 'cup-holder', to: 1 } }];
    expect(await post({ acts: strange })).toEqual([400, 'there is no control named cup-holder']);
  });
});

describe('lessons that instructors write', () => {
  const text = (id: string): string => `id: ${id}
title: Ours
way: learn
aim: What we always forget.
minutes: 2
day: mild
until: area-clear
`;

  test('stand beside those of the type for everybody, are flown and marked, and go again', async () => {
    const instructor = pilot.as('instructor');
    const put = await instructor.put('/lessons/S7/own-one', { text: text('own-one') });
    expect([put.status, put.body.error?.message]).toEqual([200, undefined]);
    const { own } = await instructor.get<LessonsOfType>('/lessons/S7');
    expect(own).toEqual([expect.objectContaining({ id: 'own-one', by: PERSON.instructor.name, problems: [] })]);
    const { body } = await flown('own-one');
    expect((await pilot.post('/drill/flown', body)).status).toBe(201);
    expect((await instructor.delete('/lessons/S7/own-one')).status).toBe(200);
    expect((await pilot.get<DrillMessage>(page)).lessons.some((l) => l.id === 'own-one')).toBe(false);
    expect((await pilot.post('/drill/flown', body)).status).toBe(404);
  });

  test('what is wrong is refused by name: no lesson, a name of the type, another name than it is kept by', async () => {
    const refused = async (id: string, written: string): Promise<string | undefined> => {
      const { status, body } = await pilot.as('instructor').put(`/lessons/S7/${id}`, { text: written });
      expect(status).toBe(400);
      return body.error?.message;
    };
    expect(await refused('own-two', 'title: only')).toMatch(/way: /);
    expect(await refused('learn-start', text('learn-start'))).toMatch(/learn-start comes with the type/);
    expect(await refused('own-two', text('own-three'))).toMatch(/named own-three, and kept as own-two/);
    expect(await refused('Own Two', text('own-two'))).toMatch(/small letters/);
    expect((await pilot.put('/lessons/S7/own-two', { text: text('own-two') })).status).toBe(403);
  });
});

test('a learner says something against a mark: it stays, and the record says both', async () => {
  const { body } = await flown('recall-start', (act) => (act.kind === 'look' && act.item === 'captions-cold' ? { kind: 'hint' } : act));
  const { body: kept } = await pilot.post('/drill/flown', body);
  const { id, sum } = kept as unknown as DrillKept;
  const dispute = { mark: 'Hint: it is in the zone overhead', t_s: 3, note: 'The caption was hidden by my hand.' };
  expect((await pilot.post(`/drill/flown/${id}/disputes`, dispute)).status).toBe(200);
  expect((await pilot.post(`/drill/flown/${id}/disputes`, { ...dispute, note: ' ' })).status).toBe(400);
  expect((await pilot.as('instructor').post(`/drill/flown/${id}/disputes`, dispute)).status).toBe(404);
  const listed = (await pilot.get<DrillMessage>(page)).flown.find((d) => d.id === id)!;
  expect(listed).toMatchObject({ sum, disputes: [expect.objectContaining(dispute)] });
  const answer = await pilot.fetch('/drill/record.pdf');
  expect(readPdf(new Uint8Array(await answer.arrayBuffer())).text.replace(/\s+/g, ' ')).toContain('hidden by my hand');
}); // oxfmt-ignore
