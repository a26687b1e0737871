import { shippedType } from '@rouse/aircraft';
import { needWatched, type WatchedType } from '@rouse/core/aircraft';
import { FRAME_HEADER, type RunDetail } from '@rouse/core/contract';
import { chainEntries, reduceRun, type Entry, type Payload } from '@rouse/core/procedure';
import type { StartSnapshot, WatchSnapshot } from '@rouse/core/watch';
import { beforeEach, describe, expect, test } from 'vitest';
import { runClock } from '../src/run/clock.ts';
import { dwell_s, waitEstimate } from '../src/run/estimates.ts';
import { FrameRing, ring } from '../src/run/frame-ring.ts';
import { SOURCE_LOST_AFTER_S } from '@rouse/core/watch';
import { roomRows } from '../src/run/room.ts';
import {
  connectionChanged,
  entriesArrived,
  type FollowedRun,
  type LiveStatus,
  refused,
  refusedMeanwhile,
  runLeft,
  runLoaded,
  runReducer,
  statusArrived,
  unwireCorridor,
  writtenMeanwhile,
} from '../src/run/run-slice.ts';
import { shownStart } from '../src/run/shown-start.ts';
import { askOf, stillAsked } from '../src/features/start/asking.ts';

const watched = (name: string): WatchedType => needWatched(shippedType(process.cwd(), name)!);
const type = watched('skerry-s7');
const index = (id: string): number => type.channels.findIndex((c) => c.id === id);
const frameOf = (values: Record<string, number>): Float64Array => {
  const out = new Float64Array(type.channels.length);
  for (const [id, v] of Object.entries(values)) out[index(id)] = v;
  return out;
};

function packed(t_s: number, values: Float64Array): Float64Array {
  const out = new Float64Array(FRAME_HEADER + values.length);
  out[0] = t_s;
  out[1] = t_s + 1000;
  out.set(values, FRAME_HEADER);
  return out;
}

const snapshot: WatchSnapshot = {
  phase: 'start',
  sourceLost: false,
  leading: 0,
  starts: [],
  room: [],
};
const going: StartSnapshot = {
  watch: 'engine-1-start',
  state: 'accelerating',
  phase: 'start',
  ranDown: false,
  starterAt_s: 10,
  starterOn_s: 12.4,
  starterLeft_s: 32.6,
  starterAllowed_s: 45,
  restDue_s: 0,
  triesLeft: 3,
  doubt: null,
  gates: [],
  rate_K_s: 40,
  speedRate_pct_s: 2,
  peak: null,
  milestones: [
    { id: 'light-off', title: 'Light-off', words: '', due_s: 20, met: true },
    { id: 'oil', title: 'Oil pressure', words: '', due_s: 27, met: false },
    { id: 'rotor', title: 'Rotor turning', words: '', due_s: null, met: false },
  ],
};
const status = (watch: Partial<WatchSnapshot> = {}, start: Partial<StartSnapshot> = {}): LiveStatus => ({
  kind: 'status',
  t_s: 22.4,
  source: 'live',
  keptTo_s: null,
  outbox: { waiting: 0, away_s: 0, disk: null },
  arrivedAt_ms: 0,
  quality: null,
  unknown: [],
  pace: 1,
  check: null,
  dwells: [],
  ratings: [],
  watch: { ...snapshot, ...watch, starts: [{ ...going, ...start }] },
});

describe('the frame ring', () => {
  let frames: FrameRing;
  beforeEach(() => {
    frames = new FrameRing();
    frames.reset(type.channels.length, null);
  });

  test('keeps frames in order, the newest nine thousand of them', () => {
    for (let i = 1; i <= 9500; i++) frames.push(packed(i / 50, frameOf({ 'ng.1': i })));
    expect(frames.length).toBe(9000);
    expect(frames.lastTime()).toBe(190);
    expect(frames.timeAt(0)).toBeCloseTo(501 / 50, 9);
    expect(frames.last(index('ng.1'))).toBe(9500);
    expect(frames.timeAt(frames.indexAt(100))).toBe(100);
    expect(frames.unit_s).toBe(1190);
  });

  test('a frame that does not go forward, or of another size, is not kept', () => {
    frames.push(packed(5, frameOf({ 'ng.1': 1 })));
    frames.push(packed(5, frameOf({ 'ng.1': 2 })));
    frames.push(packed(4, frameOf({ 'ng.1': 3 })));
    frames.push(new Float64Array(3));
    expect(frames.length).toBe(1);
    expect(frames.last(index('ng.1'))).toBe(1);
  });

  test('what is not fresh is unknown: not the last value, not zero', () => {
    const limit_ms = 1000 * SOURCE_LOST_AFTER_S;
    frames.push(packed(5, frameOf({ 'ng.1': 38.4 })));
    frames.heard('live', 1000);
    expect(frames.lastFrame(1000 + limit_ms - 1)[index('ng.1')]).toBe(38.4);
    expect([...frames.lastFrame(1000 + limit_ms)].every(Number.isNaN)).toBe(true);
    frames.heard('lost', 2000);
    expect([...frames.lastFrame(2000)].every(Number.isNaN)).toBe(true);
  });

  test('begins with what the server had stored, which is not fresh by itself', () => {
    const columns = type.channels.map(() => new Float64Array([1, 2, 3]));
    frames.reset(type.channels.length, {
      channels: type.channels.map((c) => c.id),
      t_s: new Float64Array([1, 2, 3]),
      columns,
    });
    expect(frames.length).toBe(3);
    expect(frames.fresh(0)).toBe(false);
    frames.push(packed(3.02, frameOf({})));
    expect(frames.length).toBe(4);
    expect(frames.fresh(60)).toBe(false);
    frames.heard('live', 55);
    expect(frames.fresh(60)).toBe(true);
  });
});

describe('room to the limits', () => {
  const start = frameOf({
    'tot.1': 640,
    'ng.1': 31.3,
    'oil.1.pressure': 0.4,
    nr: 4.8,
    'bus.volts': 19.9,
    'starter.1.amps': 640,
    'gearbox.oil.temperature': 15,
    'gearbox.oil.pressure': 0.3,
    'outside.air': 12,
  });
  const row = (id: string, ...args: Parameters<typeof roomRows>): ReturnType<typeof roomRows>[number] =>
    roomRows(...args).find((r) => r.channel.id === id)!;

  test('the rows are those of the type file, in its order', () => {
    expect(roomRows(type, status(), start, 'start').map((r) => r.channel.id)).toEqual(type.room);
  });

  test('a temperature that will reach its band within four seconds is tinted and says when', () => {
    const calm = row('tot.1', type, status(), start, 'start');
    expect(calm).toMatchObject({ figure: '640', unit: '°C', near: true, remark: 'band in 3.2 s' });
    expect(row('tot.1', type, status({}, { rate_K_s: 20 }), start, 'start')).toMatchObject({
      near: false,
      remark: '130 to 770',
    });
  });

  test('inside a band the time left is rounded down', () => {
    const inside = status({ room: [{ channel: 'tot.1', band: 'A', edge: 770, remaining_s: 3.29 }] });
    expect(row('tot.1', type, inside, start, 'start')).toMatchObject({ near: true, remark: '3.2 s left' });
  });

  test('the start says what each reading is waited for', () => {
    expect(row('ng.1', type, status(), start, 'start').remark).toBe('66.5 in 18 s');
    expect(row('oil.1.pressure', type, status(), start, 'start').remark).toBe('due in 5 s');
    expect(row('nr', type, status(), start, 'start').remark).toBe('by 31 % Ng');
    expect(row('bus.volts', type, status(), start, 'start').remark).toBe('6.7 to stop');
    expect(row('starter.1.amps', type, status(), start, 'start')).toMatchObject({
      figure: '0:12',
      unit: 'on',
      remark: '0:33 left',
      near: false,
    });
    expect(row('starter.1.amps', type, status({}, { starterLeft_s: 6 }), start, 'start').near).toBe(true);
  });

  test('without data every row is unknown, and none is near or good', () => {
    const none = new Float64Array(type.channels.length).fill(NaN);
    for (const r of roomRows(type, status(), none, 'start'))
      expect(r).toMatchObject({ figure: 'unknown', unit: '', remark: '', near: false });
  });

  test('only the limits of the phase are in force', () => {
    expect(row('bus.volts', type, status(), start, 'start').limits.map((l) => l.id)).toEqual(['volts-start']);
    const flying = status({ phase: 'flight' }, { phase: 'running' });
    expect(row('bus.volts', type, flying, start, 'flight').limits.map((l) => l.id)).toEqual([
      'volts-high',
      'volts-low-run',
    ]);
    expect(row('bus.volts', type, status({ phase: 'off' }, { phase: 'off' }), start, 'off').limits).toEqual([]);
  });
});

describe('room on other aircraft', () => {
  const twin = watched('haugh-h9');
  const frame = (of: WatchedType, values: Record<string, number>): Float64Array => {
    const out = new Float64Array(of.channels.length);
    for (const [id, v] of Object.entries(values)) out[of.channels.findIndex((c) => c.id === id)] = v;
    return out;
  };
  const starts = (first: Partial<StartSnapshot>, second: Partial<StartSnapshot>): LiveStatus => ({
    ...status(),
    watch: {
      ...snapshot,
      leading: 1,
      starts: [
        { ...going, watch: 'engine-1-start', ...first },
        { ...going, watch: 'engine-2-start', ...second },
      ],
    },
  });

  test('while the second engine starts, each engine has the limits of its own phase', () => {
    const rows = roomRows(
      twin,
      starts({ phase: 'running', state: 'idle' }, { rate_K_s: 10 }),
      frame(twin, { 'tot.1': 480, 'tot.2': 500, 'ng.2': 30, 'bus.volts': 22 }),
      'start',
    );
    const limits = (id: string): string[] => rows.find((r) => r.channel.id === id)!.limits.map((l) => l.id);
    expect(limits('tot.2')).toEqual(['tot-start-2']);
    expect(limits('tot.1')).not.toContain('tot-start-1');
    expect(rows.find((r) => r.channel.id === 'tot.2')!.remark).toBe('275 to 775');
    expect(rows.find((r) => r.channel.id === 'bus.volts')!.remark).toBe('8.5 to stop');
  });

  test('a temperature that may be stuck says so in its row', () => {
    const doubted = starts({ phase: 'running' }, { doubt: 'Temperature has stood', rate_K_s: 0 });
    const row = roomRows(twin, doubted, frame(twin, { 'tot.2': 500 }), 'start').find((r) => r.channel.id === 'tot.2')!;
    expect(row).toMatchObject({ near: true, remark: 'may be stuck' });
  });

  test('a starter that rests says for how long', () => {
    const manual = watched('corrie-c5');
    const resting: LiveStatus = {
      ...status(),
      watch: { ...snapshot, phase: 'off', starts: [{ ...going, phase: 'off', starterOn_s: 0, restDue_s: 71.2 }] },
    };
    const row = roomRows(manual, resting, frame(manual, {}), 'off').find((r) => r.channel.id === 'starter.1.amps')!;
    expect(row).toMatchObject({ figure: '0:00', unit: 'off', remark: 'rest 1:12', near: true });
  });

  test('the start that the screen shows is that of the present item, else the one that goes on', () => {
    const first = shownStart(twin, reduceRun([]), starts({}, {}).watch);
    expect(first.spec.id).toBe('engine-2-start');
    expect(shownStart(twin, reduceRun([]), null).spec.id).toBe('engine-1-start');
    const piston = watched('tarn-t2');
    expect(shownStart(piston, reduceRun([]), null).spec.kind).toBe('piston');
  });
});

describe('estimates', () => {
  test('a wait is estimated from the frames of the last seconds', () => {
    ring.reset(type.channels.length, null);
    const oil = type.items.find((i) => i.id === 'engine-oil-warm')!;
    const followed = { type, state: reduceRun([]), detail: { past: [] } } as unknown as FollowedRun;
    expect(waitEstimate(followed, oil, null)).toBeNull();
    for (let i = 1; i <= 1000; i++) ring.push(packed(i / 50, frameOf({ 'oil.1.temperature': 10 + i / 250 })));
    // 14 °C now, 0.2 °C a second, 26 °C wanted
    expect(waitEstimate(followed, oil, null)!.seconds).toBeCloseTo(60, 0);
    expect(
      waitEstimate(
        followed,
        type.items.find((i) => i.id === 'papers')!,
        null,
      ),
    ).toBeNull();
  });

  test('what only has to last is told by the server, in whole seconds', () => {
    const coolDown = type.items.find((i) => i.id === 'cool-down')!;
    const waiting: LiveStatus = { ...status(), dwells: [{ item: 'cool-down', left_s: 41.3 }] };
    const followed = { type, state: reduceRun([]), detail: { past: [] } } as unknown as FollowedRun;
    expect(dwell_s(waiting, coolDown)).toBe(42);
    expect(dwell_s(status(), coolDown)).toBeNull();
    expect(waitEstimate(followed, coolDown, 42)).toEqual({ seconds: 42, low: 42, high: 42 });
  });

  test('the clock of the run is the server’s, carried on', () => {
    const now = performance.now();
    expect(runClock({ ...status(), arrivedAt_ms: now - 500 }, '')).toBeCloseTo(22.9, 1);
    expect(runClock(null, new Date(Date.now() - 3000).toISOString())).toBeCloseTo(3, 0);
  });
});

describe('the followed run', () => {
  const RUN = '0193a000-0000-7000-8000-0000000000ff';
  const payloads: Payload[] = [
    {
      kind: 'run-opened',
      tail: 'QV-SKY',
      type: 'S7',
      typeVersion: 1,
      source: 'stand-in',
      pad: 'pad 2',
      conditions: '',
    },
    { kind: 'item-done', item: 'papers', how: 'declared', value: null, words: '' },
    { kind: 'mark', words: '' },
  ];
  const chained = (of: readonly Payload[]): Entry[] =>
    chainEntries(
      RUN,
      undefined,
      of.map((payload, i) => ({
        id: `0193a000-0000-7000-8000-00000000000${i}`,
        at_ms: 1e12 + i,
        t_s: i,
        by: 'p',
        payload,
      })),
    );
  const entries = chained(payloads);
  const detail: RunDetail = {
    run: RUN,
    openedAt: '2026-11-25T08:00:00.000Z',
    closedAt: null,
    pilot: 'M. Aske',
    outcome: null,
    source: 'stand-in',
    conditions: '',
    aircraft: 'a',
    tail: 'QV-SKY',
    pad: 'pad 2',
    type: { id: 'S7', version: 1 },
    entries: entries.slice(0, 1),
    past: [],
    usual: {},
  };
  const loaded = runReducer(undefined, runLoaded({ detail, type, corridors: {} }));

  test('entries are taken once, in order, and settle their items', () => {
    const once = runReducer(loaded, entriesArrived({ entries: entries.slice(1), whole: false }));
    const twice = runReducer(once, entriesArrived({ entries: entries.slice(1), whole: false }));
    expect(twice.followed?.entries).toEqual(entries);
    expect(twice.followed?.state.items['papers']?.status).toBe('done');
    const afresh = runReducer(twice, entriesArrived({ entries: entries.slice(0, 2), whole: true }));
    expect(afresh.followed?.entries).toHaveLength(2);
  });

  test('a note that is being typed stays with its item until it is in the journal', () => {
    const asked = askOf(loaded.followed!, 'fault');
    expect(asked?.item.id).toBe('papers');
    const after = (of: readonly Payload[]): FollowedRun =>
      runReducer(loaded, entriesArrived({ entries: chained(of), whole: true })).followed!;
    const settledBySensor = after(payloads);
    expect(askOf(settledBySensor, 'fault')?.item.id).not.toBe('papers');
    expect(stillAsked(asked, settledBySensor)).toBe(asked);
    const written = after([payloads[0]!, { kind: 'item-fault', item: 'papers', note: 'one is missing' }]);
    expect(stillAsked(asked, written)).toBeNull();
    const interrupted = after([...payloads, { kind: 'interrupted', words: '' }]);
    expect(stillAsked(asked, interrupted)).toBeNull();
    expect(askOf(interrupted, 'skip')).toBeNull();
  });

  test('a refusal stays until something is accepted; leaving forgets everything', () => {
    const no = runReducer(loaded, refused({ message: 'Battery: off', remedy: 'Put it right' }));
    expect(no.refusal?.message).toBe('Battery: off');
    expect(runReducer(no, entriesArrived({ entries: entries.slice(1), whole: false })).refusal).toBeNull();
    const heard = { ...entries[0]!, id: 'of-the-watch', seq: 2, by: 'watch', kind: 'phase' as const, phase: 'idle' }; // oxfmt-ignore
    const watched = runReducer(no, entriesArrived({ entries: [heard as unknown as Entry], whole: false }));
    expect(watched.followed?.entries).toHaveLength(2);
    expect(watched.refusal?.message).toBe('Battery: off');
    const live = runReducer(runReducer(no, connectionChanged(true)), statusArrived(status()));
    expect(live).toMatchObject({ connected: true, status: { source: 'live' } });
    expect(runReducer(live, runLeft())).toMatchObject({
      followed: null,
      status: null,
      connected: false,
      refusal: null,
    });
    expect(runReducer(undefined, entriesArrived({ entries, whole: true })).followed).toBeNull();
  });

  test('without a server the list goes on by what is written here, until the journal has it, or it is refused', () => {
    const draft = { id: entries[1]!.id, at_ms: 1e12, t_s: 4, by: 'p', payload: payloads[1]! };
    const alone = runReducer(loaded, writtenMeanwhile(chainEntries('run', entries[0], [draft])));
    expect(alone.followed!.state.items['papers']?.status).toBe('done');
    expect(alone.followed!.entries).toHaveLength(1);
    // what the watch wrote in between comes first
    const heard = { ...entries[0]!, id: 'of-the-watch', seq: 2, by: 'watch', kind: 'phase' as const, phase: 'idle' } as unknown as Entry; // oxfmt-ignore
    const between = runReducer(alone, entriesArrived({ entries: [heard], whole: false }));
    expect(between.followed!.meanwhile).toHaveLength(1);
    expect(between.followed!.state.items['papers']?.status).toBe('done');
    const taken = runReducer(between, entriesArrived({ entries: [{ ...entries[1]!, seq: 3 }], whole: false }));
    expect(taken.followed!.meanwhile).toEqual([]);
    expect(taken.followed!.state.items['papers']?.status).toBe('done');
    expect(taken.followed!.entries).toHaveLength(3);
    const no = runReducer(between, refusedMeanwhile(draft.id));
    expect(no.followed!.state.items['papers']?.status ?? 'todo').toBe('todo');
  });

  test('an empty bin of a corridor comes over the wire as null and is NaN again', () => {
    const corridor = unwireCorridor({
      starts: 9,
      upperTot_C: [null, 700],
      lowerTot_C: [null, 600],
      lowerPace_pct_s: [1.2, null],
      contours: [{ share: 0.98, low_C: [null, 1], high_C: [null, 2] }],
      days: [{ outsideAir_C: 12, pressureAltitude_ft: null, tailwind_kt: null, residual_C: 14, crankVolts_V: 18 }],
    });
    expect(corridor.upperTot_C[0]).toBeNaN();
    expect(corridor.contours[0]!.low_C).toEqual([NaN, 1]);
    expect(corridor.days[0]!.tailwind_kt).toBeNaN();
    expect(corridor.starts).toBe(9);
  });
});
