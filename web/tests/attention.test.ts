import type { AircraftToday, Today } from '@rouse/core/contract';
import { CLEAN_LINE } from '@rouse/core/contract';
import { expect, test } from 'vitest';
import { attentionOf, byAttention } from '../src/features/today/attention.ts';

const NOW = '2026-11-29T08:34:00Z';
const allows: NonNullable<AircraftToday['allows']> = {
  heading_deg: 240,
  oat_C: 12,
  rotorWind: { nearness: 'good', words: '', used: 0.4 },
  power: { nearness: 'good', words: '', used: 0.6 },
  engineOut: null,
  ready_s: 500,
  heldBy: 'Engine oil',
  objections: [],
};

function standing(tail: string, of: Partial<AircraftToday> = {}): AircraftToday {
  return {
    aircraft: tail,
    tail,
    type: { id: 'S7', version: 1, name: 'Skerry S7', role: '' },
    wired: true,
    connected: true,
    standIn: { connected: true, preset: 'mild', line: CLEAN_LINE, presets: [] },
    pad: 'pad 2, Varra',
    site: 'Varra',
    openRun: null,
    running: null,
    residual: null,
    setAside: null,
    openExceedances: 0,
    exceedance: null,
    defects: 0,
    due: [],
    allows,
    starts: null,
    findings: [],
    goodStarts: 30,
    recent: [],
    booked: { starts: 30, running_s: 0, flight_s: 0 },
    ...of,
  };
}

const held = { openExceedances: 1, exceedance: { run: 'r', seq: 7, title: 'Oil pressure 2', at: NOW } };
const running = { openRun: 'r', running: { pilot: 'M. Aske', legs: [], openedAt: NOW } };

test('an open exceedance is a release to who may release, and a wait to everybody else', () => {
  expect(attentionOf(standing('a', held), NOW, true)).toMatchObject({ rank: 0, way: { label: 'Release', to: '/log/exceedances/r/7' } }); // oxfmt-ignore
  const pilot = attentionOf(standing('a', held), NOW, false);
  expect(pilot.way.label).toBe('Look');
  expect(pilot.words).toContain('It waits for an engineer.');
});

test('a run that goes on leads back into it, whatever else is said of the aircraft', () => {
  expect(attentionOf(standing('a', running), NOW, false)).toMatchObject({ rank: 1, weight: 'now', way: { label: 'Go on', to: '/start/r' } }); // oxfmt-ignore
  expect(attentionOf(standing('a', { ...running, ...held }), NOW, true).way).toEqual({
    label: 'Go on',
    to: '/start/r',
  });
});

test.each([
  ['an item that is past and holds', { due: [{ title: '100 hours', words: '2.0 h over', state: 'past', holds: true }] }, 'warning', '100 hours is due'],
  ['an item that is past and does not hold', { due: [{ title: 'Wash', words: '1 day over', state: 'past', holds: false }] }, 'caution', 'Wash is due'],
  ['one that comes near', { due: [{ title: '100 hours', words: '6.0 h left', state: 'soon', holds: true }] }, 'caution', '100 hours falls due'],
  ['a no-go of the day', { allows: { ...allows, objections: [{ id: 'wind', severity: 'no-go', title: 'Wind outside the rotor’s limit', words: '' }] } }, 'warning', 'Wind outside the rotor’s limit'],
  ['what its trends found', { findings: ['Hotter for the same work: the gas path.'] }, 'caution', 'Look at it'],
  ['a defect', { defects: 1 }, 'caution', 'A defect is open'],
  ['nothing', {}, null, 'Nothing holds it'],
  ['a wind that nobody knows', { allows: { ...allows, rotorWind: { nearness: 'unknown', words: 'unknown there', used: null } } }, null, 'Nothing known holds it'],
  ['a day that is not worked out yet', { allows: null }, null, 'Not known yet'],
] as [string, Partial<AircraftToday>, string | null, string][])('%s is said as what it is', (_, of, weight, title) => {
  expect(attentionOf(standing('a', of), NOW, false)).toMatchObject({ weight, title });
}); // oxfmt-ignore

test('a run that has just ended waits to be read back; one of yesterday does not', () => {
  const run = { run: 'r', openedAt: NOW, closedAt: '2026-11-29T08:19:00Z', pilot: '', outcome: 'shut-down', source: 'stand-in', conditions: '' } as const; // oxfmt-ignore
  expect(attentionOf(standing('a', { recent: [run] }), NOW, false).way).toEqual({ label: 'Debrief', to: '/debrief/r' });
  const old = { ...run, closedAt: '2026-11-28T08:19:00Z' };
  expect(attentionOf(standing('a', { recent: [old] }), NOW, false).way.label).toBe('Brief');
});

test('what wants attention most stands first, then by tail', () => {
  const fleet = [
    standing('QV-A'),
    standing('QV-B', { findings: ['x'] }),
    standing('QV-C', running),
    standing('QV-D', held),
    standing('QV-E'),
  ];
  const today: Today = { operator: { name: '', place: '' }, person: { name: '', role: '' }, now: NOW, sites: [], aircraft: fleet }; // oxfmt-ignore
  expect(byAttention(today, true).map((r) => r.aircraft.tail)).toEqual(['QV-D', 'QV-C', 'QV-B', 'QV-A', 'QV-E']);
});
