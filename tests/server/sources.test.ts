import type { Debrief, KeptMapping } from '@rouse/core/contract';
import { CLEAN_LINE } from '@rouse/core/contract';
import type { CsvMapping } from '@rouse/core/replay';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { FLEET } from '../../server/src/demo/identity.ts';
import { Caller, goodBrief, Rouse, waitUntil } from '../rouse.ts';

let rouse: Rouse;
let call: Caller;
const idOf = (tail: string): string => FLEET.find((a) => a.tail === tail)!.aircraftId;

beforeAll(async () => {
  rouse = await Rouse.start({ tails: ['QV-SKY', 'QV-TRN', 'QV-COR'] });
  call = new Caller(rouse.base);
});
afterAll(async () => {
  await rouse.stop();
  expect(rouse.errors).toEqual([]);
});

const mapping = (scale: number): CsvMapping => ({
  separator: ';',
  decimal: ',',
  headerRows: 1,
  time: { format: 'clock', column: 0, rate_Hz: 10, start_s: 0 },
  columns: [{ column: 1, channel: 'ng.1', unit: '%', scale }],
});

test('a mapping is kept for its header and its type, and the newest counts', async () => {
  const header = 'time;ng';
  const get = (type: string, of = header): Promise<KeptMapping> =>
    call.get(`/mappings/${type}?header=${encodeURIComponent(of)}`);
  expect(await get('S7')).toEqual({ mapping: null });
  for (const scale of [1, 2])
    expect((await call.put('/mappings/S7', { header, mapping: mapping(scale) })).status).toBe(200);
  expect((await get('S7')).mapping?.columns[0]?.scale).toBe(2);
  expect(await get('C5')).toEqual({ mapping: null });
  expect(await get('S7', 'time;np')).toEqual({ mapping: null });
  const wrong = await call.put('/mappings/S7', { header, mapping: { ...mapping(1), columns: [] } });
  expect(wrong.status).toBe(400);
  expect(wrong.body.error?.message).toMatch(/columns/);
});

test('each tail has a stand-in of its own: conditions of one leave the others alone', async () => {
  await call.choose('cool', idOf('QV-TRN'));
  const { aircraft } = await call.get<{ aircraft: { tail: string; standIn: { preset: string } | null }[] }>('/today');
  const presets = Object.fromEntries(aircraft.map((a) => [a.tail, a.standIn?.preset ?? null]));
  expect(presets).toEqual({
    'QV-COR': 'mild',
    'QV-ERN': null,
    'QV-INJ': null,
    'QV-SKY': 'mild',
    'QV-STR': null,
    'QV-TRN': 'cool',
  });
});

test(
  'a piston start over NMEA and UDP, with lines lost and garbled: watched, kept, and read back without a temperature plane',
  { timeout: 90_000 },
  async () => {
    const aircraft = idOf('QV-TRN');
    await call.choose('mild', aircraft);
    const line = { ...CLEAN_LINE, format: 'nmea', transport: 'udp', drop: 0.05, corrupt: 0.05, repeat: 0.05 };
    expect((await call.post('/stand-in/line', { aircraft, line })).status).toBe(200);
    const run = await call.open(aircraft);
    await call.work(run, 'oil-up');
    const { entries } = await call.detail(run);
    expect(entries.flatMap((e) => (e.kind === 'start-state' ? [e.state] : []))).toEqual([
      'cranking',
      'firing',
      'running',
      'oil-up',
      'charging',
      'idle',
    ]);
    expect(entries.filter((e) => e.kind === 'abort')).toEqual([]);
    const debrief = await waitUntil(async () => {
      const read = await call.get<Debrief>(`/runs/${run}/debrief`);
      return read.starts.length ? read : null;
    });
    expect(debrief.starts[0]).toMatchObject({ watch: 'engine-1-start', attempt: 1, bands: [] });
    expect(debrief.corridors).toEqual({ 'engine-1-start': null });
  },
);

test('a run by hand takes nothing from the line, however live it is', async () => {
  const aircraft = idOf('QV-COR');
  const { body } = await call.post('/runs', { aircraft, brief: goodBrief(aircraft), byHand: true });
  const run = body.run!;
  expect((await call.detail(run)).source).toBe('by-hand');
  await call.work(run, 'start-engine');
  for (let stage = 0; stage < 6; stage++) {
    const { status } = await call.writeNext(run, { kind: 'stage-done', item: 'start-engine', stage, value: null, words: '', last: false }); // oxfmt-ignore
    expect(status).toBe(201);
  }
  const unlikely = await call.writeNext(run, {
    kind: 'item-done',
    item: 'peak',
    how: 'declared',
    value: 5000,
    words: '',
  });
  expect(unlikely.status).toBe(422);
  expect(unlikely.body.error?.message).toMatch(/Peak temperature: 5000 °C/);
  const hurry = await call.post('/stand-in/pace', { run, times: 2 });
  expect(hurry.body.error?.message).toMatch(/simulated/);
  const trace = await call.fetch(`/runs/${run}/trace.csv`);
  expect((await trace.text()).trim().split('\n')).toHaveLength(1);
  await call.writeNext(run, { kind: 'closed', outcome: 'given-up' });
});
