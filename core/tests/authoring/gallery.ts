import type { TypeFolder } from '@rouse/core/authoring';

/** A change to one file of a whole folder that makes it wrong: what stood there, and what somebody wrote instead. */
export interface Wrong {
  file: string;
  /** null for the whole file */
  from: string | null;
  to: string;
}

const wrong = (file: string, from: string | null, to: string): Wrong => ({ file, from, to });

/** The folder with one thing wrong in it. */
export function spoil(folder: TypeFolder, { file, from, to }: Wrong): TypeFolder {
  const text = folder[file];
  if (from === null) return { ...folder, [file]: to };
  if (text === undefined || !text.includes(from)) throw new Error(`${file} has no ${from}`);
  return { ...folder, [file]: text.replace(from, () => to) };
}

const LIFT = 'procedure/lift.yaml';
const BEFORE = 'procedure/before-start.yaml';
const START = 'procedure/start.yaml';
const RUN_UP = 'procedure/run-up.yaml';

/** What people write by mistake, each in the folder of the Skerry S7. */
export const GALLERY: Readonly<Record<string, Wrong>> = {
  'a field that is there twice': wrong('type.yaml', 'id: S7', 'id: S7\nid: S8'),
  'a tab': wrong('wind.yaml', '\n  ', '\n\t'),
  'a colon in words': wrong(START, 'why: ', 'why: one: two: '),
  'a file that is no map': wrong('wind.yaml', null, '- one\n'),
  'an alias': wrong('type.yaml', 'maker: Ardvane', 'maker: &m Ardvane\nbuilder: *m'),
  'a brace in words': wrong(RUN_UP, 'why: The control', 'why: { control'),
  'a missing name': wrong('type.yaml', 'name: Skerry S7\n', ''),
  'an id with a blank': wrong('type.yaml', 'id: S7', 'id: S 7'),
  'a version in words': wrong('type.yaml', 'version: 2', 'version: first'),
  'version nought': wrong('type.yaml', 'version: 2', 'version: 0'),
  'a field nobody knows': wrong('type.yaml', 'maker:', 'colour: red\nmaker:'),
  'no engines': wrong('type.yaml', 'engines: [{ id: 1, kind: turbine, control: digital }]', 'engines: []'),
  'an engine of another kind': wrong('type.yaml', 'kind: turbine', 'kind: rocket'),
  'a leg without a file': wrong('type.yaml', 'lift, hover', 'lift, taxi, hover'),
  'a room channel that is not there': wrong('type.yaml', 'room: [tot.1', 'room: [t0t.1'),
  'a role that is not there': wrong('type.yaml', 'rotor: nr', 'rotor: nrr'),
  'a role nobody asks for': wrong('type.yaml', 'rotor: nr', 'blades: nr, rotor: nr'),
  'extends nothing': wrong('type.yaml', 'maker:', 'extends: tarn-t3\nmaker:'),
  'a column nobody knows': wrong('channels.csv', 'id,label', 'id,colour,label'),
  'a column left out': wrong('channels.csv', 'id,label,short', 'id,label,shrt'),
  'a row too long': wrong('limits.csv', 'Selector off.\n', 'Selector off., 2, 3, 4, 5, 6\n'),
  'a quote left open': wrong('captions.csv', 'GEN,', '"GEN,'),
  'a label left empty': wrong('channels.csv', 'ng.1,Gas producer', 'ng.1,'),
  'a number in words': wrong('channels.csv', 'Ng,%,0,110', 'Ng,%,none,110'),
  'a channel twice': wrong('channels.csv', 'tot.1,', 'ng.1,'),
  'a channel id with a capital': wrong('channels.csv', 'ng.1,', 'Ng.1,'),
  'states that are none': wrong('channels.csv', '0 off; 1 on', 'off/on'),
  'a sentence that is none': wrong('channels.csv', 'XDR NG_1', 'NG_1'),
  'too many decimals': wrong('channels.csv', 'Ng,%,0,110,1', 'Ng,%,0,110,7'),
  'a resolution of nought': wrong('channels.csv', 'Ng,%,0,110,1,0.01', 'Ng,%,0,110,1,0'),
  'a limit of a channel that is not there': wrong('limits.csv', 'tot-start,A,tot.1', 'tot-start,A,tit.1'),
  'a side that is none': wrong('limits.csv', 'start,above,770', 'start,over,770'),
  'a limit in another unit': wrong('limits.csv', '770,°C', '770,°F'),
  'a time allowed without a unit': wrong('limits.csv', '°C,8 s in all', '°C,8'),
  'a severity that is none': wrong('limits.csv', ',caution', ',danger'),
  'a phase that is none': wrong('limits.csv', 'tot.1,start,above', 'tot.1,starting,above'),
  'bands out of order': wrong('limits.csv', 'above,835', 'above,760'),
  'a test that sets a limit aside, unreadable': wrong('limits.csv', 'switch.hydraulic-test > 0.5 and 3 s after', 'during the test'), // oxfmt-ignore
  'a caption lit by nothing': wrong('captions.csv', 'bus.volts > 10 V and generator.1.amps < 1 A', 'bus.volts > 10 V and'), // oxfmt-ignore
  'a chart with a word': wrong('charts/top.csv', '98.7', 'about 99'),
  'a chart that rises with the temperature': wrong('charts/top.csv', '87.4', '99.9'),
  'a chart row that goes on': wrong('charts/mcp.csv', ',64.7', ',64.7,60'),
  'a chart with a hole': wrong('charts/top.csv', '98.7', ''),
  'an altitude that goes back': wrong('charts/top.csv', '\n4000,', '\n1000,'),
  'a standard item that is not there': wrong(LIFT, 'use: ready', 'use: redy'),
  'a line without an answer': wrong(BEFORE, ' — ', ' - '),
  'an item of no kind': wrong(RUN_UP, '- use: selector-flight\n', '- chek: selector-flight\n'),
  'a field another kind has': wrong(RUN_UP, '    usual_s: 12\n', '    usual_s: 12\n    hold_s: 3\n'),
  'a channel misspelt in a condition': wrong(RUN_UP, 'engine.1.selector is flight', 'engine.1.selectr is flight'),
  'a state that the channel has not': wrong(RUN_UP, 'engine.1.selector is flight', 'engine.1.selector is fly'),
  'a comparison that is none': wrong('watch.yaml', 'bus.volts >= 24.1 V', 'bus.volts about 24.1 V'),
  'a unit that is not the channel’s': wrong('watch.yaml', 'bus.volts >= 24.1 V', 'bus.volts >= 24.1 A'),
  'a parenthesis left open': wrong('watch.yaml', 'bus.volts >= 24.1 V', '(bus.volts >= 24.1 V'),
  'two conditions without a word between': wrong('watch.yaml', 'bus.volts >= 24.1 V', 'bus.volts >= 24.1 V tot.1 < 9 °C'), // oxfmt-ignore
  'an empty between': wrong('watch.yaml', 'bus.volts >= 24.1 V', 'bus.volts between 26 and 24 V'),
  'a time limit where none belongs': wrong('watch.yaml', 'bus.volts >= 24.1 V', 'bus.volts >= 24.1 V within 4 s'),
  'a caption that is not there': wrong('watch.yaml', 'bus.volts >= 24.1 V', 'not captions.fir'),
  'a move without a position': wrong(RUN_UP, 'standIn: e1.mode = FLY', 'standIn: e1.mode ='),
  'a need that stands later': wrong(START, 'needs: ', 'needs: ready # '),
  'a choice that is not there': wrong(
    RUN_UP,
    '- use: selector-flight',
    '- use: selector-flight\n    when: dors is closed',
  ),
  'an answer that the choice has not': wrong(
    RUN_UP,
    '- use: selector-flight',
    '- use: selector-flight\n    when: doors is shut',
  ),
  'a check that finds no such thing': wrong(
    RUN_UP,
    '- use: selector-flight',
    '- use: selector-flight\n    when: heater found rain',
  ),
  'a deadline after nothing': wrong(RUN_UP, '- use: selector-flight', '- use: selector-flight\n    deadline: 60 s'),
  'an action that is not in the library': wrong('aborts.yaml', 'actions: [selector-off, fuel-closed, motor, cool', 'actions: [selector-of, fuel-closed, motor, cool'), // oxfmt-ignore
  'a reason that is none': wrong('aborts.yaml', 'plans:\n', 'plans:\n  bored: { title: Bored, actions: [selector-off], afterwards: Tea. }\n'), // oxfmt-ignore
  'an action that opens and nothing closes': wrong('aborts.yaml', '    closedBy: motor-off\n', ''),
  'a set of aborts that is not there': wrong('aborts.yaml', 'like: turbine', 'like: turbines'),
  'an engine meant where none is': wrong(RUN_UP, 'why: The control', 'why: Control {n}'),
  'a leg behind the last look that nothing begins': wrong('procedure/hover.yaml', 'begins:', '# begins:'),
  'a usual answer that is none': wrong('ways.yaml', 'usual: read-and-do', 'usual: by-heart'),
};
