import type {
  BooksMessage,
  ExceedanceMessage,
  ExceedanceSummary,
  LoggedTail,
  PersonLog,
  RunsPage,
  StartActs,
  Today,
  TrendsMessage,
  WhatIfAnswer,
} from '@rouse/core/contract';
import { accountsOf } from '@rouse/core/books';
import type { Entry } from '@rouse/core/procedure';
import { hashOf } from '@rouse/core/procedure';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { PERSON } from '../caller.ts';
import { readPdf } from '../pdf.ts';
import { Caller, goodBrief, Rouse, typeOfTail } from '../rouse.ts';

const idOf = (tail: string): string => FLEET.find((a) => a.tail === tail)!.aircraftId;
const [SKY, COR, STR] = ['QV-SKY', 'QV-COR', 'QV-STR'].map(idOf) as [string, string, string];

let rouse: Rouse;
let call: Caller;
let engineer: Caller;
beforeAll(async () => {
  rouse = await Rouse.start({ demoStarts: 'story' });
  call = new Caller(rouse.base);
  engineer = call.as('engineer');
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

/** Asks until something is worked out. */
async function until<T>(ask: () => Promise<T>, done: (found: T) => boolean): Promise<T> {
  for (const since = Date.now(); ;) {
    const found = await ask();
    if (done(found)) return found;
    if (Date.now() - since > 60_000) throw new Error(`not in a minute: ${JSON.stringify(found).slice(0, 300)}`);
    await new Promise((resolve) => setTimeout(resolve, 50));
  }
}

const pdfOf = async (place: string): Promise<Uint8Array> => {
  const answer = await call.fetch(place);
  expect(answer.status, place).toBe(200);
  expect(answer.headers.get('content-type')).toContain('application/pdf');
  return new Uint8Array(await answer.arrayBuffer());
};

describe('what if I had not, of a real start', () => {
  const lastOf = async (tail: string): Promise<string> =>
    (await call.get<RunsPage>(`/log/runs?tail=${tail}&outcome=shut-down`)).runs[0]!.run;
  const watch = 'engine-1-start';

  test('its twin says what one act done otherwise would have come to, and how far it may be off', async () => {
    const run = await lastOf('QV-SKY');
    const { acts } = await call.get<StartActs>(`/runs/${run}/starts/${watch}/1/acts`);
    const act = acts.findIndex((a) => a.words === 'Fuel boost pump on');
    expect(acts[act]).toMatchObject({ t_s: 0 });
    const asked = { watch, attempt: 1, act, how: 'left-out', by_s: 0 };
    const { status, body } = await call.post(`/runs/${run}/what-if`, asked);
    expect([status, body.error?.message]).toEqual([200, undefined]);
    const { recorded, was, would, words } = body as unknown as WhatIfAnswer;
    const peak = ({ values }: WhatIfAnswer['was']): number => Math.max(...values.map((v) => v ?? -Infinity));
    const off = Number(/off by (\d+) °C at the peak/.exec(words)![1]);
    // a worn turbine and an aged battery: the type as new would be far off
    expect(Math.abs(peak(was) - peak(recorded))).toBeLessThan(3 * off + 5);
    expect(peak(would)).not.toBeCloseTo(peak(was), 0);
  });

  test('what cannot be said is refused in words: too few starts, a piston engine, no such start, no such act', async () => {
    const few = await lastOf('QV-STR');
    const still = { attempt: 1, act: 0, how: 'left-out', by_s: 0 };
    const refused = async (run: string, asked: object): Promise<[number, string | undefined]> => {
      const { status, body } = await call.post(`/runs/${run}/what-if`, asked);
      return [status, body.error?.message];
    };
    const first = (await call.get<RunsPage>('/log/runs?tail=QV-STR')).runs.at(-1)!.run;
    expect(await refused(first, { ...still, watch })).toEqual([422, expect.stringMatching(/only \d good starts of this aircraft/)]);
    const piston = await lastOf('QV-TRN');
    const [own] = (await call.get<{ starts: { watch: string }[] }>(`/runs/${piston}/debrief`)).starts;
    expect(await refused(piston, { ...still, watch: own!.watch })).toEqual([422, expect.stringContaining('turbine starts only')]);
    expect((await refused(few, { ...still, watch: 'nothing' }))[0]).toBe(404);
    expect(await refused(await lastOf('QV-SKY'), { ...still, watch, act: 900 })).toEqual([422, expect.stringContaining('no act 900')]);
    expect((await refused(few, { ...still, watch, by_s: -1 }))[0]).toBe(400);
  });
}); // oxfmt-ignore

describe('the story of the demo is found by the methods', () => {
  test('one turbine wears, one battery dies, the others are as usual', async () => {
    const tails = await until(
      () => call.get<LoggedTail[]>('/log/tails'),
      (all) => all.every((t) => t.findings !== null),
    );
    const found = Object.fromEntries(tails.map((t) => [t.tail, t.findings]));
    expect(found['QV-SKY']!.join()).toMatch(/gas path|air is lost/);
    expect(found['QV-COR']!.join()).toMatch(/battery/i);
    for (const tail of ['QV-STR', 'QV-TRN']) expect(found[tail], tail).toEqual([]);
    expect(tails.find((t) => t.tail === 'QV-STR')).toMatchObject({ openExceedances: 1, runs: 8 });
  });

  test('trends say where it leads, what was done to it, and begin anew when more is booked', async () => {
    const of = (): Promise<TrendsMessage> => call.get<TrendsMessage>(`/aircraft/${COR}/trends`);
    const resistance = (m: TrendsMessage) => m.trends.signs.find((s) => s.sign.id === 'battery/resistance')!;
    const before = resistance(await of());
    expect(before.judged.course).toBe('worse');
    expect(before.judged.ahead!.forecast.lower).not.toBeNull();
    const booked = await engineer.post(`/aircraft/${COR}/maintenance`, { kind: 'battery', words: 'Battery changed', at: new Date().toISOString() }); // oxfmt-ignore
    expect(booked.status).toBe(201);
    const after = resistance(await of());
    expect(after.segment).toBe(after.points.length);
    expect(after.judged.course).toBe('too-few');
  });

  test('a run is left out and counted again, with the reason and who; a pilot may not', async () => {
    const { trends } = await call.get<TrendsMessage>(`/aircraft/${SKY}/trends`);
    const { run } = trends.signs[0]!.points[5]!;
    const body = { leftOut: true, reason: 'flown with the anti-ice on' };
    expect((await call.post(`/runs/${run}/trend-choice`, body)).status).toBe(403);
    expect((await engineer.post(`/runs/${run}/trend-choice`, body)).status).toBe(201);
    const out = await call.get<TrendsMessage>(`/aircraft/${SKY}/trends`);
    expect(out.leftOut).toEqual([expect.objectContaining({ run, reason: body.reason, by: 'R. Vale' })]);
    expect(out.trends.signs[0]!.points.find((p) => p.run === run)!.leftOut).toBe(true);
    await engineer.post(`/runs/${run}/trend-choice`, { leftOut: false, reason: 'it was off after all' });
    expect((await call.get<TrendsMessage>(`/aircraft/${SKY}/trends`)).leftOut).toEqual([]);
  });
});

describe('runs', () => {
  test('a filter narrows by every field, and a page goes on where the one before ended', async () => {
    const of = (query: string): Promise<RunsPage> => call.get<RunsPage>(`/log/runs?${query}`);
    const all = await of('');
    expect(all.runs).toHaveLength(50);
    expect(all.more).toBe(true);
    const rest = await of(`after=${all.runs.at(-1)!.run}`);
    const seen = new Set(all.runs.map((r) => r.run));
    expect(rest.runs.some((r) => seen.has(r.run))).toBe(false);
    expect(rest.runs[0]!.openedAt <= all.runs.at(-1)!.openedAt).toBe(true);
    const sky = await of('tail=QV-SKY&outcome=ready');
    expect(sky.runs.length).toBeGreaterThan(0);
    for (const r of sky.runs) expect(r).toMatchObject({ tail: 'QV-SKY', outcome: 'ready' });
    const [rare, often] = [all.runs[3]!.conditions.toUpperCase(), all.runs[3]!.conditions.slice(0, 2)];
    for (const words of [rare, often]) {
      const said = await of(`words=${encodeURIComponent(words)}`);
      expect(said.runs.map((r) => r.run)).toContain(all.runs[3]!.run);
      for (const r of said.runs) expect(r.conditions.toUpperCase()).toContain(words.toUpperCase());
    }
    const day = all.runs[3]!.openedAt.slice(0, 10);
    for (const r of (await of(`from=${day}&to=${day}`)).runs) expect(r.openedAt.slice(0, 10)).toBe(day);
    expect((await of('words=100%25')).runs).toEqual([]);
    const wrong = await call.fetch('/log/runs?outcome=wonderful');
    expect(wrong.status).toBe(400);
    expect(((await wrong.json()) as { error: { path: string } }).error.path).toBe('outcome');
  });

  test('a person reads the own log; that of others only who oversees', async () => {
    const own = await call.get<PersonLog>('/log/me');
    expect(own.name).toBe('M. Aske');
    expect(own.tails.map((t) => t.tail)).toContain('QV-STR');
    expect(own.recency.runs90d).toBeGreaterThan(0);
    expect((await call.fetch(`/log/people/${own.person}`)).status).toBe(403);
    expect((await call.as('instructor').get<PersonLog>(`/log/people/${own.person}`)).tails).toEqual(own.tails);
  });
});

describe('an exceedance', () => {
  let held: ExceedanceSummary;
  beforeAll(async () => {
    [held] = (await call.get<ExceedanceSummary[]>(`/aircraft/${STR}/exceedances`)) as [ExceedanceSummary];
  });
  const place = (): string => `/exceedances/${held.run}/${held.seq}`;

  test('stands on Today and holds the next start, until an engineer releases it by name', async () => {
    const today = await call.get<Today>('/today');
    expect(today.aircraft.find((a) => a.tail === 'QV-STR')!.exceedance).toMatchObject({ run: held.run, seq: held.seq });
    const refused = await call.post('/runs', { aircraft: STR, brief: goodBrief(STR), byHand: true });
    expect(refused.body.error).toMatchObject({ code: 'brief-held' });
    expect((await call.post(`${place()}/release`, { found: 'looks good to me' })).status).toBe(403);
  });

  test('can be disputed and worked on, with papers that are what they say; nothing is ever deleted', async () => {
    expect((await call.post(`${place()}/dispute`, { words: 'The sender had failed before' })).status).toBe(201);
    expect((await call.post(`${place()}/notes`, { words: 'not mine to write' })).status).toBe(403);
    expect((await engineer.post(`${place()}/notes`, { words: 'Pump drive found sheared, replaced' })).status).toBe(201);
    const send = (name: string, type: string, body: Uint8Array) =>
      engineer.fetch(`${place()}/attachments?name=${encodeURIComponent(name)}`, { method: 'POST', headers: { 'content-type': type }, body: Buffer.from(body) }); // oxfmt-ignore
    const png = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex');
    expect((await send('pump.png', 'image/png', png)).status).toBe(201);
    for (const [name, type, body] of [
      ['page.png', 'image/png', Buffer.from('<script>alert(1)</script>')],
      ['page.html', 'text/html', Buffer.from('<p>')],
      ['empty.pdf', 'application/pdf', Buffer.alloc(0)],
    ] as const)
      expect((await send(name, type, body)).status, name).toBe(400);
    const large = await send('large.png', 'image/png', Buffer.concat([png, Buffer.alloc(5 * 1024 * 1024)]));
    expect(large.status).toBe(400);
    const message = await call.get<ExceedanceMessage>(place());
    expect(message.disputed).toBe(true);
    expect(message.notes.map((n) => [n.kind, n.by])).toEqual([
      ['disputed', 'M. Aske'],
      ['done', 'R. Vale'],
    ]);
    expect(message.attachments).toMatchObject([{ name: 'pump.png', size: png.length }]);
    const back = await call.fetch(`/attachments/${message.attachments[0]!.id}`);
    expect(back.headers.get('content-disposition')).toContain('attachment');
    expect(back.headers.get('content-security-policy')).toContain("default-src 'none'");
    expect(Buffer.from(await back.arrayBuffer()).equals(png)).toBe(true);
    expect((await call.fetch(place(), { method: 'DELETE' })).status).toBe(404);
  });

  test('is released once; its report says all of it, and the next start goes on', async () => {
    const found = 'Pump replaced, pressure 5.4 bar in two ground runs';
    expect((await engineer.post(`${place()}/release`, { found })).status).toBe(200);
    expect((await engineer.post(`${place()}/release`, { found: 'once more' })).status).toBe(404);
    const pdf = readPdf(await pdfOf(`${place()}/report.pdf`));
    for (const words of ['Exceedance of QV-STR', found, 'R. Vale', 'Disputed: The sender had failed', 'pump.png'])
      expect(pdf.text.replace(/\s+/g, ' ')).toContain(words);
    const run = await call.open(STR, goodBrief(STR), true);
    await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
  });
});

describe('books', () => {
  const of = (): Promise<BooksMessage> => call.get<BooksMessage>(`/aircraft/${SKY}/books`);

  test('totals come again from the journals by another way', async () => {
    const { book } = await of();
    const [up, down] = typeOfTail('QV-SKY').legs.filter((l) => l.begins);
    let [starts, running_s, flight_s] = [0, 0, 0];
    let page: RunsPage = { runs: [], more: true };
    for (let after = ''; page.more; after = `&after=${page.runs.at(-1)!.run}`) {
      page = await call.get<RunsPage>(`/log/runs?tail=QV-SKY${after}`);
      for (const { run } of page.runs) {
        const { entries } = await call.get<{ entries: Entry[] }>(`/runs/${run}`);
        const offs = entries.filter((e) => e.kind === 'phase' && e.phase === 'off').map((e) => e.t);
        const end_s = entries.findLast((e) => e.kind !== 'note' && e.kind !== 'closed')!.t;
        for (const done of entries.filter((e) => e.kind === 'start-done')) {
          starts++;
          running_s += (offs.find((t) => t > done.t) ?? end_s) - done.t;
        }
        const lift = entries.find((e) => e.kind === 'leg-begun' && e.leg === up!.id);
        const landed = entries.find((e) => e.kind === 'leg-begun' && e.leg === down!.id);
        if (lift) flight_s += (landed?.t ?? end_s) - lift.t;
      }
    }
    const total = (id: string): number => book.lines.find((l) => l.account.id === id)!.total;
    expect(total('engine-1-starts')).toBe(starts);
    expect(3600 * total('engine-1-hours')).toBeCloseTo(running_s, 3);
    expect(3600 * total('flight-hours')).toBeCloseTo(flight_s, 3);
  });

  test('begin once, are corrected by entries, and say who and why; a pilot only reads', async () => {
    const put = (kind: string, amount: number, who = engineer) => who.post(`/aircraft/${SKY}/books`, { kind, account: 'engine-1-hours', amount, reason: 'logbook 2, page 40' }); // oxfmt-ignore
    expect((await put('opening', 900, call)).status).toBe(403);
    const before = (await of()).book.lines.find((l) => l.account.id === 'engine-1-hours')!.total;
    expect((await put('opening', 900)).status).toBe(201);
    expect((await put('opening', 901)).body.error).toMatchObject({ code: 'changed-meanwhile', path: 'account' });
    expect((await put('correction', -1.5)).status).toBe(201);
    const line = (await of()).book.lines.find((l) => l.account.id === 'engine-1-hours')!;
    expect(line).toMatchObject({ opening: 900, corrected: -1.5 });
    expect(line.total).toBeCloseTo(before + 898.5, 6);
    const wrong = await engineer.post(`/aircraft/${SKY}/books`, { kind: 'correction', account: 'hoist', amount: 1, reason: 'no such thing' }); // oxfmt-ignore
    expect(wrong.body.error).toMatchObject({ code: 'bad-request', path: 'account' });
    const csv = await (await call.fetch(`/aircraft/${SKY}/books.csv`)).text();
    expect(csv).toContain('"Engine, hours",h,opening,900');
    expect(csv.split('\r\n').length).toBeGreaterThan(accountsOf(typeOfTail('QV-SKY')).length);
  });

  test('an item that is past holds the next start, and is said on Today before', async () => {
    const soon = { title: 'Fifty hours', account: 'engine-1-hours', amount: (await of()).book.lines.find((l) => l.account.id === 'engine-1-hours')!.total + 2, onDay: null, holds: true }; // oxfmt-ignore
    expect((await engineer.post(`/aircraft/${SKY}/due`, soon)).status).toBe(201);
    const today = await until(
      () => call.get<Today>('/today'),
      (t) => t.aircraft.find((a) => a.tail === 'QV-SKY')!.due.length > 0,
    );
    expect(today.aircraft.find((a) => a.tail === 'QV-SKY')!.due).toMatchObject([
      { title: 'Fifty hours', state: 'soon' },
    ]);
    const past = { title: 'Calendar check', account: null, amount: null, onDay: '2026-01-01', holds: true };
    expect((await engineer.post(`/aircraft/${SKY}/due`, past)).status).toBe(201);
    const refused = await call.post('/runs', { aircraft: SKY, brief: goodBrief(SKY), byHand: true });
    expect(refused.body.error!.message).toContain('Calendar check is due');
    for (const { id } of (await of()).due)
      expect((await engineer.post(`/due/${id}/done`, { words: 'done with the fifty hours' })).status).toBe(200);
    const run = await call.open(SKY, goodBrief(SKY), true);
    await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
    const bad = await engineer.post(`/aircraft/${SKY}/due`, { ...past, onDay: null });
    expect(bad.body.error).toMatchObject({ code: 'bad-request', path: 'onDay' });
  });
});

describe('reports', () => {
  test('a run: everything that it was, fonts in the file, its seal on every page, quick and small', async () => {
    const { runs } = await call.get<RunsPage>('/log/runs?tail=QV-SKY&source=simulated');
    const run = runs[2]!;
    await pdfOf(`/runs/${run.run}/report.pdf`);
    const since = performance.now();
    const bytes = await pdfOf(`/runs/${run.run}/report.pdf`);
    const took_ms = performance.now() - since;
    const pdf = readPdf(bytes);
    const { entries } = await call.get<{ entries: Entry[] }>(`/runs/${run.run}`);
    const seal = hashOf(entries.at(-1)!);
    expect(pdf.fontsEmbedded).toBe(true);
    expect(pdf.fonts.join()).toMatch(/Atkinson/);
    expect(pdf.text.split(seal).length - 1).toBe(pdf.pages);
    expect(pdf.text.split('The approved flight manual').length - 1).toBe(pdf.pages);
    expect(pdf.text).toContain(`Page ${pdf.pages} of ${pdf.pages}`);
    expect(pdf.text).toMatch(/Run of QV-SKY/);
    expect(pdf.text).toMatch(/Peak temperature\s+\d+ °C/);
    expect(pdf.bytes).toBeLessThan(400_000);
    // a busy machine must not fail it: the figure itself is the bench's
    expect(took_ms).toBeLessThan(15_000);
  });

  test('a month, a brief to carry, and a type as a booklet', async () => {
    const { runs } = await call.get<RunsPage>('/log/runs?tail=QV-SKY&source=simulated');
    const month = runs[0]!.openedAt.slice(0, 7);
    const monthly = readPdf(await pdfOf(`/aircraft/${SKY}/month.pdf?month=${month}`));
    expect(monthly.text).toContain(`QV-SKY in ${month}`);
    expect(monthly.text).toMatch(/Look at it:/);
    const booklet = readPdf(await pdfOf('/types/S7/1/booklet.pdf'));
    for (const item of typeOfTail('QV-SKY').items.slice(0, 4)) expect(booklet.text.replace(/\s+/g, ' ')).toContain(item.challenge); // oxfmt-ignore
    const answer = await call.fetch(`/aircraft/${SKY}/brief.pdf`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(goodBrief(SKY)) }); // oxfmt-ignore
    const brief = readPdf(new Uint8Array(await answer.arrayBuffer()));
    expect(brief.text).toContain('Brief for QV-SKY');
    expect(brief.text).toMatch(/Density altitude\s+−?-?\d+ ft/);
    expect((await call.fetch(`/aircraft/${SKY}/month.pdf?month=2026-13`)).status).toBe(400);
  });

  test('a brief says the limits in the unit of the chart', async () => {
    const trainer = idOf('QV-TRN');
    const answer = await call.fetch(`/aircraft/${trainer}/brief.pdf`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(goodBrief(trainer)) }); // oxfmt-ignore
    const { text } = readPdf(new Uint8Array(await answer.arrayBuffer()));
    expect(text).toMatch(/Take-off limit of the day\s+\d+\.\d inHg/);
    expect(text).toMatch(/Hover in ground effect\s+[\d.]+ inHg left of/);
    expect(text).toMatch(/Weight at lift\s+\d+ kg/);
  });

  test('a month is told whole, however many runs it has', async () => {
    const owner = new pg.Client({ connectionString: rouse.database.url });
    await owner.connect();
    await owner.query(
      `INSERT INTO run (operator_id, run_id, run_month, aircraft_id, type_id, type_version, opened_by, opened_at, source, conditions, closed_at, outcome)
       SELECT operator_id, gen_random_uuid(), '2020-03-01', aircraft_id, type_id, type_version, $2, at, 'by-hand', '', at + interval '1 hour', 'given-up'
       FROM aircraft, generate_series(timestamptz '2020-03-01 00:00Z', timestamptz '2020-03-05 23:00Z', interval '1 hour') at WHERE aircraft_id = $1`,
      [idOf('QV-INJ'), PERSON.pilot.personId],
    );
    await owner.end();
    const { text } = readPdf(await pdfOf(`/aircraft/${idOf('QV-INJ')}/month.pdf?month=2020-03`));
    expect(text).toContain('120 runs');
    expect(text.match(/2020-03-0\d \d\d:00 UTC/g)).toHaveLength(120);
  });
});

describe('the weather of a site', () => {
  test('one report serves every aircraft on it, and none elsewhere', async () => {
    const report = 'METAR QXVA 290820Z 24012G21KT 9999 FEW030 12/06 Q1013';
    expect((await call.put('/sites/Varra/report', { report: 'nice weather today' })).body.error).toMatchObject({ code: 'bad-request', path: 'report' }); // oxfmt-ignore
    expect((await call.put('/sites/Nowhere/report', { report })).status).toBe(404);
    expect((await call.put('/sites/Varra/report', { report })).status).toBe(200);
    const today = await until(
      () => call.get<Today>('/today'),
      (t) => t.aircraft.filter((a) => a.site === 'Varra').every((a) => a.allows?.oat_C === 12),
    );
    expect(today.sites.find((s) => s.site === 'Varra')!.report).toMatchObject({ text: report, by: 'M. Aske' });
    const far = today.aircraft.find((a) => a.tail === 'QV-COR')!;
    expect(far).toMatchObject({ site: 'Hill site', allows: { oat_C: null, power: { nearness: 'unknown' } } });
    expect(today.aircraft.find((a) => a.tail === 'QV-TRN')!.allows!.rotorWind.words).toMatch(/^21 of \d+ kt/);
  });
});
