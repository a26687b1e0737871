import { describe, expect, test } from 'vitest';
import { needWatched, type StandInAction } from '@rouse/core/aircraft';
import { SimulatedCockpit } from '@rouse/core/simulator';
import { fleet, typeOf } from '../fleet.ts';

function cockpitOf(id: string): {
  cockpit: SimulatedCockpit;
  read: (channel: string) => number;
  run: (s: number) => void;
} {
  const type = needWatched(typeOf(id));
  const cockpit = new SimulatedCockpit(type, {}, [], 1);
  let values = cockpit.tick();
  return {
    cockpit,
    read: (channel) => values[type.channels.findIndex((c) => c.id === channel)]!,
    run(seconds) {
      for (let k = 0; k < seconds * 50; k++) values = cockpit.tick();
    },
  };
}

describe('the hands in a simulated cockpit', () => {
  test('let go of what is momentary, and wait for what they were told to wait for', () => {
    const { cockpit, read, run } = cockpitOf('S7');
    cockpit.move({ control: 'battery', to: 1 });
    cockpit.move({ control: 'load.base_bus', to: 1 });
    cockpit.move({ control: 'boost', to: 1, when: { sig: 'volts', op: '>=', val: 24 } });
    run(0.1);
    expect(read('switch.boost')).toBe(1);
    cockpit.move({ control: 'load.radio', to: 1, release_s: 0.5 });
    run(0.4);
    expect(read('switch.avionics')).toBe(1);
    run(0.2);
    expect(read('switch.avionics')).toBe(0);
  });

  test('move later what is asked for later; a hand that does something else with a control forgets it', () => {
    const { cockpit, read, run } = cockpitOf('T2');
    cockpit.move({ control: 'mix', to: 1, after_s: 1 });
    run(0.5);
    expect(read('mixture')).toBe(0);
    run(0.6);
    expect(read('mixture')).toBe(1);
    cockpit.move({ control: 'starter', to: 1 });
    cockpit.move({ control: 'starter', to: 0, when: { sig: 'n', op: '>=', val: 0.9 } });
    cockpit.move({ control: 'starter', to: 1 });
    run(0.1);
    expect(() => cockpit.move({ control: 'ejection-seat', to: 1 })).toThrow(/ejection-seat/);
  });

  test('a switch that nothing in the physics hangs on keeps its own position', () => {
    const { cockpit, read, run } = cockpitOf('T2');
    run(0.1);
    expect(read('switch.anticollision')).toBe(0);
    cockpit.move({ control: 'panel.anticollision', to: 1 });
    run(0.1);
    expect(read('switch.anticollision')).toBe(1);
  });
});

test.each(fleet.map((t) => t.id))(
  '%s: every channel is simulated, every move of its lists is one that it has',
  (id) => {
    const type = needWatched(typeOf(id));
    const { cockpit } = cockpitOf(id);
    const values = cockpit.tick();
    type.channels.forEach((c, i) => expect(values[i], c.id).not.toBeNaN());
    const moves: StandInAction[] = [...type.items, ...Object.values(type.aborts).flatMap((a) => a.actions)].flatMap(
      (i) => i.standIn ?? [],
    );
    expect(moves.length).toBeGreaterThan(10);
    for (const { control, to } of moves) cockpit.move({ control, to });
    for (const preset of type.standIn)
      for (const fault of preset.faults)
        for (const [control, to] of Object.entries(fault.set)) cockpit.move({ control, to });
  },
);

test('a fuel valve that is closed starves the engine, and the watch sees it run down', () => {
  const { cockpit, read, run } = cockpitOf('C5');
  for (const control of ['battery', 'load.base_bus', 'boost', 'e1.starter_sw']) cockpit.move({ control, to: 1 });
  cockpit.move({ control: 'e1.grip', to: 0.24, when: { sig: 'e1.ng', op: '>=', val: 14.5 } });
  run(12);
  expect(read('fuel.1.flow')).toBeGreaterThan(5);
  cockpit.move({ control: 'e1.fuel_valve', to: 0 });
  run(1);
  expect(read('fuel.1.flow')).toBeLessThan(0.1);
  expect(read('fuel.valve')).toBe(0);
});

test('a flat battery makes the contactor of the piston trainer chatter, and its lamp says so', () => {
  const type = needWatched(typeOf('T2'));
  const cockpit = new SimulatedCockpit(type, { env: { oat: 15 }, init: { SOC: 0.2 } }, [], 1);
  const lamp = type.channels.findIndex((c) => c.id === 'starter.1');
  for (const [control, to] of [
    ['master', 1],
    ['mags', 'BOTH'],
    ['starter', 1],
    ['fault.battR', 2],
  ] as const)
    cockpit.move({ control, to });
  const seen = Array.from({ length: 400 }, () => cockpit.tick()[lamp]!);
  const closings = seen.filter((v, i) => v === 1 && seen[i - 1] === 0).length;
  expect(closings).toBeGreaterThan(20);
});
