import { needWatched, stagesOf } from '@rouse/core/aircraft';
import {
  acceptFromPilot,
  isFinished,
  itemState,
  offeredItems,
  type Payload,
  presentItem,
  procedureOf,
  reduceRun,
  rotorWindNow,
  Runner,
  stagesDone,
  standInActions,
  stillOpen,
  type RunState,
} from '@rouse/core/procedure';
import { SimulatedCockpit } from '@rouse/core/simulator';
import { describe, expect, test } from 'vitest';
import { RUNNING, warm } from '../checks/fly-check.ts';
import { fleet, typeOf } from '../fleet.ts';
import { journalOf } from '../skerry.ts';

const T2 = needWatched(typeOf('T2'));
const MAGNETOS = 'magnetos-low-left-first';

/** A run on the simulator that has come to one item: everything before it is done. */
class AtCheck {
  readonly written: { t_s: number; by: string; payload: Payload }[] = [];
  readonly runner = new Runner(T2);
  readonly cockpit: SimulatedCockpit;
  values: Float64Array = new Float64Array(T2.channels.length).fill(NaN);
  private offset_s = 0;
  private readonly item: string;

  constructor(item: string, faults: Record<string, number> = {}) {
    this.item = item;
    this.cockpit = new SimulatedCockpit(T2, { env: { oat: 15, dew: -5 }, init: warm(0.78) }, [], 3);
    for (const move of [...RUNNING, { control: 'pilotN', to: 0.78 }]) this.cockpit.move(move);
    for (const [name, to] of Object.entries(faults)) this.cockpit.move({ control: `fault.${name}`, to });
    this.write('pilot', { kind: 'run-opened', tail: 'QV-TRN', type: 'T2', typeVersion: T2.version, source: 'stand-in', pad: '', conditions: '' }); // oxfmt-ignore
    const list = procedureOf(T2, this.state);
    for (const before of list.slice(
      0,
      list.findIndex((i) => i.id === item),
    ))
      this.write('pilot', { kind: 'item-done', item: before.id, how: 'declared', value: null, words: '' });
  }

  get state() {
    return reduceRun(journalOf(this.written));
  }

  write(by: string, payload: Payload): void {
    this.written.push({ t_s: this.cockpit.t_s + this.offset_s, by, payload });
  }

  /** Moves what the present stage says. */
  hand(): void {
    for (const action of standInActions(presentItem(T2, this.state)!, this.state)) this.cockpit.move(action);
  }

  /** Goes on until the journal has what is asked for, doing what each stage says when `work` is set. */
  until(found: (payload: Payload) => boolean, work = true): Payload {
    const item = T2.items.find((i) => i.id === this.item)!;
    let acted = '';
    const state = { now: this.state };
    for (let tick = 1; tick < 50 * 200; tick++) {
      this.values = this.cockpit.tick();
      const t_s = Math.round(this.cockpit.t_s * 100) / 100;
      if (!this.runner.frame(t_s, this.values) && tick % 5 !== 0) continue;
      const asked = `${stagesDone(state.now, item)}/${state.now.measured[item.id]?.attempts}`;
      if (work && asked !== acted) {
        acted = asked;
        this.hand();
      }
      const payloads = this.runner.observe(t_s, this.values, state.now);
      for (const payload of payloads) this.write('watch', payload);
      if (payloads.length) state.now = this.state;
      const hit = payloads.find(found);
      if (hit) return hit;
    }
    throw new Error(`it did not come: ${JSON.stringify(this.runner.check())} ${presentItem(T2, this.state)?.id}`);
  }

  wants(payload: Payload) {
    return acceptFromPilot(T2, this.state, payload, this.values);
  }
}

const isMeasured = (p: Payload): boolean => p.kind === 'measured';
const stage = (n: number) => (p: Payload) => p.kind === 'stage-done' && p.stage === n;
const done = (value: number | null = null): Payload => ({
  kind: 'item-done',
  item: MAGNETOS,
  how: 'declared',
  value,
  words: '',
});

/** What is out of its place, but for the frictions, which are set until the lift. */
const moved = (state: RunState): string[] =>
  stillOpen(T2, state).flatMap((l) => (l.item.id === 'frictions' ? [] : [l.words]));

describe('a check in a run', () => {
  test('a good one settles its item, with numbers, windows and the words', () => {
    const run = new AtCheck(MAGNETOS);
    const measured = run.until(isMeasured);
    expect(measured).toMatchObject({ verdict: 'good', check: 'magnetos-low', cause: null });
    const figures = measured.kind === 'measured' ? measured.figures : [];
    expect(figures.map((f) => f.id)).toEqual(['rough-left', 'drop-left', 'rough-right', 'drop-right', 'difference']);
    for (const f of figures) expect(f.to_s!).toBeGreaterThan(f.from_s!);
    expect(itemState(run.state, MAGNETOS)).toMatchObject({ status: 'done', how: 'sensed' });
    expect(moved(run.state)).toEqual([]);
  });

  test('while a side is selected the switch is still open, and closed when both are back', () => {
    const run = new AtCheck(MAGNETOS);
    run.until(stage(1));
    expect(moved(run.state)).toEqual([]);
    run.until(stage(2));
    expect(moved(run.state)).toEqual(['Magnetos on one side']);
    run.until(isMeasured);
    expect(moved(run.state)).toEqual([]);
  });

  test('given up on one side, it stays open until the switch is seen back', () => {
    const run = new AtCheck(MAGNETOS);
    run.until(stage(2));
    run.write('pilot', { kind: 'item-skipped', item: MAGNETOS, reason: 'Called away' });
    expect(moved(run.state)).toHaveLength(1);
    const ready = T2.items.find((i) => i.id === 'ready')!;
    expect(run.wants({ kind: 'item-done', item: ready.id, how: 'declared', value: null, words: '' }).ok).toBe(false);
    run.cockpit.move({ control: 'mags', to: 'BOTH' });
    run.until((p) => p.kind === 'stage-done' && p.item === MAGNETOS, false);
    expect(moved(run.state)).toEqual([]);
  });

  test('a fault does not settle it: no word of the pilot does, and the departure is held', () => {
    const run = new AtCheck(MAGNETOS, { groundL: 1 });
    expect(run.until(isMeasured)).toMatchObject({ verdict: 'fault', cause: 'no-drop' });
    expect(itemState(run.state, MAGNETOS).status).toBe('todo');
    expect(presentItem(T2, run.state)!.id).toBe(MAGNETOS);
    for (const typed of [null, 2]) {
      const answer = run.wants(done(typed));
      expect(answer).toMatchObject({ ok: false, code: 'not-so' });
      expect(answer.ok ? '' : answer.message).toMatch(/No drop on the right/);
    }
    run.write('pilot', { kind: 'item-fault', item: MAGNETOS, note: 'no drop' });
    expect(isFinished(T2, run.state)).toBe(false);
    expect(presentItem(T2, run.state)).toBeNull();
  });

  test('put right and flown again, it settles', () => {
    const run = new AtCheck(MAGNETOS, { groundL: 1 });
    run.until(isMeasured);
    run.cockpit.move({ control: 'fault.groundL', to: 0 });
    expect(run.until(isMeasured)).toMatchObject({ verdict: 'good' });
    expect(run.state.measured[MAGNETOS]!.attempts).toBe(2);
    expect(itemState(run.state, MAGNETOS).status).toBe('done');
  });

  test('what was sensed cannot be tapped, and before it is flown nothing is taken at a word', () => {
    const run = new AtCheck(MAGNETOS);
    const tapped = run.wants({ kind: 'stage-done', item: MAGNETOS, stage: 0, value: null, words: '', last: false });
    expect(tapped).toMatchObject({ ok: false, code: 'not-so' });
    expect(run.wants(done(2))).toMatchObject({ ok: false });
  });

  test('by hand, the greatest drop is typed and judged', () => {
    const state = { ...reduceRun([]), status: 'open' as const, source: 'by-hand' as const };
    const settled = { ...state, items: Object.fromEntries(T2.items.filter((i) => i.id !== MAGNETOS).map((i) => [i.id, { ...itemState(state, i.id), status: 'done' as const }])) }; // oxfmt-ignore
    expect(acceptFromPilot(T2, settled, done(2), null).ok).toBe(true);
    expect(acceptFromPilot(T2, settled, done(9), null).ok).toBe(false);
  });
});

describe('a check that ended while something was out of its place', () => {
  test('goes on with putting back, then is flown again by a hand that does only what it says', () => {
    const run = new AtCheck('governor');
    run.until(stage(2));
    // off, and the hand does not close: it is found to hold the speed
    for (const move of [
      { control: 'gov', to: 0 },
      { control: 'pilotN', to: 0.99 },
    ])
      run.cockpit.move(move);
    expect(run.until(isMeasured, false)).toMatchObject({ verdict: 'fault', cause: 'not-off' });
    expect(moved(run.state)).toEqual(['Governor is off']);
    const present = presentItem(T2, run.state)!;
    expect(stagesOf(present)[stagesDone(run.state, present)]!.do).toMatch(/^Governor on/);
    expect(run.until(isMeasured)).toMatchObject({ verdict: 'good' });
    expect(moved(run.state)).toEqual([]);
  });

  test('of two switches, one that is on does not close for the other', () => {
    const H9 = needWatched(typeOf('H9'));
    const check = H9.items.find((i) => i.id === 'generator-split')!;
    const written: { t_s: number; by: string; payload: Payload }[] = [];
    const write = (t_s: number, by: string, payload: Payload) => written.push({ t_s, by, payload });
    const stageDone = (at: number): Payload => ({ kind: 'stage-done', item: check.id, stage: at, value: null, words: '', last: false }); // oxfmt-ignore
    write(0, 'pilot', { kind: 'run-opened', tail: 'QV-ERN', type: 'H9', typeVersion: H9.version, source: 'stand-in', pad: '', conditions: '' }); // oxfmt-ignore
    write(10, 'watch', stageDone(0));
    write(20, 'watch', stageDone(1));
    write(40, 'watch', { kind: 'measured', item: check.id, check: 'generator-split', verdict: 'fault', cause: 'no-return', words: '', figures: [], from_s: 0, to_s: 40 }); // oxfmt-ignore
    const runner = new Runner(H9);
    const values = new Float64Array(H9.channels.length).fill(NaN);
    const read = (channel: string, value: number) => (values[H9.channels.findIndex((c) => c.id === channel)] = value);
    const state = () => reduceRun(journalOf(written));
    /** What is seen to be back, which then stands in the journal. */
    const seen = (t_s: number): number[] => {
      const found = runner.observe(t_s, values, state()).filter((p) => p.kind === 'stage-done');
      for (const payload of found) write(t_s, 'watch', payload);
      return found.map((p) => p.stage);
    };
    for (const n of [1, 2]) read(`switch.generator.${n}`, n - 1);
    read('generator.1.amps', 0);
    read('generator.2.amps', 40);
    expect([seen(41), seen(42)]).toEqual([[], []]);
    expect(stagesOf(check)[stagesDone(state(), check)]!.do).toMatch(/^Generator 1 on/);
    read('switch.generator.1', 1);
    read('generator.1.amps', 20);
    expect([seen(43), seen(44)]).toEqual([[2], [4]]);
    expect(stagesDone(state(), check)).toBe(0);
    expect(stillOpen(H9, state()).filter((l) => l.item === check)).toEqual([]);
  });

  test('a switch that was on its way when the check ended counts as moved', () => {
    const run = new AtCheck('governor');
    run.until(stage(2));
    run.until(isMeasured, false);
    expect(stagesDone(run.state, presentItem(T2, run.state)!)).toBe(4);
    expect(moved(run.state)).toEqual(['Governor is off']);
    run.until(stage(4), false);
    expect(moved(run.state)).toEqual([]);
  });

  test('in every type, what is to be put back says how on a simulated aircraft', () => {
    const mute = fleet.flatMap((type) =>
      type.items.flatMap((item) => {
        const { opens, stages = [] } = (item.kind === 'measure' && item.trace) || {};
        // a reading that comes back by itself follows a hand that was moved one stage before
        const dumb = stages.filter(
          (s, i) => s.restores && !s.standIn?.length && !(stages[i - 1]?.restores && stages[i - 1]!.standIn?.length),
        );
        // the clutch goes on tightening by itself
        return opens && item.id !== 'clutch-engage' ? dumb.map((s) => `${type.id} ${item.id} ${s.id}`) : [];
      }),
    );
    expect(mute).toEqual([]);
  });
});

describe('what is offered meanwhile', () => {
  test('the waits that run come first', () => {
    const run = new AtCheck('warm-up-low');
    const offered = offeredItems(T2, run.state).map((i) => i.id);
    expect(offered.slice(0, 2)).toEqual(['head-warm', 'oil-warm']);
    expect(offered).toContain('weather-again');
  });
});

describe('rotor wind at this moment', () => {
  const brief = (heading_deg: number | null, variation_E_deg?: number) => ({
    ways: {},
    overrides: [],
    accepted: [],
    oat_C: 10,
    words: '', // oxfmt-ignore
    expected: { altimeter: null, 'pressure-setting': null, fuel: null, mass: null },
    ...(variation_E_deg !== undefined && { variation_E_deg }),
    input: { heading_deg, wind: { direction_deg: 30, from_deg: null, to_deg: null, speed_kt: 8, gust_kt: null } },
  });
  const s7 = typeOf('S7');
  const judge = (direction_deg: number | null, speed_kt: number, gust_kt: number | null, record = brief(30, 0)) =>
    rotorWindNow(s7, record, { direction_deg, speed_kt, gust_kt });

  test('the quadrant decides, and the gust counts', () => {
    expect(judge(30, 40, null)).toMatchObject({ verdict: 'CAUTION' });
    expect(judge(210, 40, null)).toMatchObject({ verdict: 'EXCEEDS' });
    expect(judge(210, 20, 34)).toMatchObject({ verdict: 'EXCEEDS', wind_kt: 34 });
    expect(judge(210, 12, null)).toMatchObject({ verdict: 'WITHIN' });
  });

  test('where the nose, the place or the direction is not known, the lowest limit of all is taken', () => {
    for (const found of [judge(30, 30, null, brief(null, 0)), judge(30, 30, null, brief(30)), judge(null, 30, null)])
      expect(found).toMatchObject({ verdict: 'EXCEEDS' });
  });

  test('no wind is unknown, and so is a gust below the mean', () => {
    expect(rotorWindNow(s7, brief(30, 0), null).verdict).toBe('UNKNOWN');
    expect(judge(30, 20, 10).verdict).toBe('UNKNOWN');
  });

  test('the item takes the wind that is entered, refuses too much, and needs one', () => {
    const at = s7.items.find((i) => i.id === 'rotor-wind')!;
    const opened = { ...reduceRun([]), status: 'open' as const, source: 'stand-in' as const };
    const state = { ...opened, items: Object.fromEntries(s7.items.slice(0, s7.items.indexOf(at)).map((i) => [i.id, { ...itemState(opened, i.id), status: 'done' as const }])) }; // oxfmt-ignore
    const wants = (wind?: { direction_deg: number | null; speed_kt: number; gust_kt: number | null }) =>
      acceptFromPilot(s7, state, { kind: 'item-done', item: at.id, how: 'declared', value: null, words: '', ...(wind && { wind }) }, null); // oxfmt-ignore
    expect(wants()).toMatchObject({ ok: false });
    expect(wants({ direction_deg: null, speed_kt: 40, gust_kt: null })).toMatchObject({ ok: false });
    expect(wants({ direction_deg: null, speed_kt: 8, gust_kt: 12 })).toMatchObject({
      ok: true,
      payload: { value: 12, wind: { speed_kt: 8 } },
    });
  });
});
