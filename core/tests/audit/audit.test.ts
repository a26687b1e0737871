import type { TypeFile } from '@rouse/core/aircraft';
import { auditFlight, auditType, collect, type Finding, flightsOf } from '@rouse/core/audit';
import { describe, expect, test } from 'vitest';
import { fleet, typeOf } from '../fleet.ts';

function changed(id: string, change: (type: TypeFile) => void): TypeFile {
  const copy = structuredClone(typeOf(id));
  change(copy);
  return copy;
}

const say = (findings: readonly Finding[]): string[] => findings.map((f) => `${f.path.join('.')}: ${f.message}`);
const item = (type: TypeFile, id: string): Record<string, unknown> =>
  type.items.find((i) => i.id === id) as unknown as Record<string, unknown>;

describe('an audit finds what would fail in flight', () => {
  test.each(fleet.map((t) => [t.id, t] as const))('nothing in the shipped %s', (_, type) => {
    expect(say(auditType(type))).toEqual([]);
  });

  test.each<[string, string, (type: TypeFile) => void, RegExp]>([
    ['a condition beyond the gauge', 'S7', (t) => (item(t, 'bus-volts')['expect'] = { channel: 'bus.volts', atLeast: 40 }), /items\.\d+\.expect: this can never be: Bus at least 40\.0 V/], // oxfmt-ignore
    ['two that exclude each other', 'S7', (t) => (item(t, 'bus-volts')['expect'] = { all: [{ channel: 'nr', above: 90 }, { channel: 'nr', below: 80 }] }), /this can never be: Rotor above 90/], // oxfmt-ignore
    ['a state that is none', 'S7', (t) => (item(t, 'bus-volts')['expect'] = { channel: 'switch.battery', is: 4 }), /this can never be: Battery switch state 4/], // oxfmt-ignore
    ['a check that cannot fail', 'S7', (t) => (item(t, 'bus-volts')['expect'] = { channel: 'bus.volts', atLeast: 0 }), /this is always so: Bus at least 0\.0 V/], // oxfmt-ignore
    ['a difference that is out of reach', 'T2', (t) => (t.legs[0]!.begins = { channel: 'engine.rpm', minus: 'nr', above: 500 }), /this can never be/], // oxfmt-ignore
    ['a gate that is always open', 'C5', (t) => (t.startWatches[0]!.gates[0]!.condition = { any: [{ channel: 'nr', atLeast: 0 }, { channel: 'nr', below: 0 }] }), /startWatches\.0\.gates\.0\.condition: this is always so/], // oxfmt-ignore
    ['limits that cross', 'S7', (t) => (t.limits.push({ id: 'nr-odd', channel: 'nr', phases: ['flight'], hysteresis: 0, bands: [{ id: 'a', above: 50, forSeconds: 0, counting: 'continuous', severity: 'caution', action: 'Look.' }] })), /nr-odd and \S+ cross: in the phase flight/], // oxfmt-ignore
    ['a limit beyond the gauge', 'S7', (t) => ((t.limits[0]!.bands[2] as { above: number }).above = 5000), /cannot be above 5000: its gauge ends at/], // oxfmt-ignore
    ['a phase that was forgotten', 'S7', (t) => (t.limits.find((l) => l.id === 'tot-run')!.phases = ['idle', 'flight']), /tot\.1 has limits in idle and in flight, and none in run-up/], // oxfmt-ignore
    ['words that do not fit', 'H9', (t) => (t.items[4]!.challenge = 'A very long challenge that nobody could read at once in a cockpit'), /items\.4\.challenge: \d+ letters do not fit/], // oxfmt-ignore
    ['a signal nobody sends', 'X14', (t) => (t.channels[0]!.simulated!.signal = 'e3.ng'), /channels\.0\.simulated\.signal: the simulator has no signal named e3\.ng/], // oxfmt-ignore
    ['a control nobody has', 'T2', (t) => (item(t, 'battery-on')['standIn'] = [{ control: 'mastr', to: 1 }]), /no control named mastr/], // oxfmt-ignore
    ['a fault nobody knows', 'C5', (t) => t.standIn.at(-1)!.faults.push({ set: { 'fault.e1.rust': 1 } }), /standIn\.\d+\.faults\.\d+\.set: there is no input named fault\.e1\.rust/], // oxfmt-ignore
    ['a state nobody knows', 'T2', (t) => (t.standIn[0]!.init['mood'] = 1), /standIn\.0\.init: there is no state named mood/], // oxfmt-ignore
    ['a fault that waits for nothing', 'S7', (t) => t.standIn[0]!.faults.push({ when: { sig: 'e1.mood', op: '>=', val: 1 }, set: {} }), /no signal named e1\.mood/], // oxfmt-ignore
  ])('%s', (_, id, change, message) => {
    const found = say(auditType(changed(id, change)));
    expect(found.length).toBeGreaterThan(0);
    expect(found.join('\n')).toMatch(message);
  });
});

describe('a list that is flown', () => {
  test('every answer to every question is a flight of its own', () => {
    const flights = flightsOf(typeOf('T2'));
    expect(flights[0]).toEqual({ words: 'as usual', differs: {} });
    const others = typeOf('T2')
      .choices.filter((c) => !c.derived)
      .flatMap((c) => c.alternatives.slice(1));
    expect(flights).toHaveLength(1 + others.length);
  });

  test('goes through on the shipped type', () => {
    expect(collect((report) => auditFlight(typeOf('C5'), flightsOf(typeOf('C5'))[0]!, report))).toEqual([]);
  });

  test('is found to end where nothing does what is waited for', () => {
    const type = changed('C5', (t) => delete item(t, 'battery-on')['standIn']);
    const [found, ...others] = collect((report) => auditFlight(type, flightsOf(type)[0]!, report));
    expect(others).toEqual([]);
    expect(type.items[found!.path[1] as number]!.id).toBe('battery-on');
    expect(found!.message).toMatch(/as usual.*not completed: Moved, but not seen/);
  });
});

test.each(fleet.map((t) => [t.id, t] as const))(
  'the short list of %s, and a slow rotor beside, are flown to the end',
  (_, type) => {
    const flights = flightsOf(type).filter(
      ({ differs }) => differs['list'] === 'turn-round' || differs['neighbour'] === 'slow',
    );
    expect(flights).toHaveLength(2);
    for (const flight of flights) expect(say(collect((report) => auditFlight(type, flight, report)))).toEqual([]);
  },
);
