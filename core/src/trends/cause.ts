import type { Judged } from './judge.ts';
import type { Part, Sign } from './sign.ts';

/** A sign with what it does. */
export interface Moving {
  sign: Sign;
  judged: Judged;
}

/** What several signs that move together say. A pattern, never a fault found. */
export interface Cause {
  id: string;
  words: string;
  /** what to look at, the likeliest first */
  lookAt: readonly { what: string; why: string }[];
}

interface Pattern extends Cause {
  /** parts whose signs must be worse, all of them */
  needs: readonly Part[];
  /** other parts that go with it when they are worse too */
  explains: readonly Part[];
}

const AIR_PATH = [
  { what: 'Compressor, wash it', why: 'dirt costs air, and air is what cools' },
  { what: 'Anti-ice and bleed valves, shut?', why: 'an open one looks just like this' },
  { what: 'Hot section, by borescope', why: 'if a wash does not give it back' },
] as const;

/** The first that fits is the finding; what it explains is not told twice. Written for engineers of any type. */
const PATTERNS: readonly Pattern[] = [
  {
    id: 'battery-hot',
    needs: ['battery', 'gas-path'],
    explains: ['acceleration', 'ignition'],
    words: 'Hotter starts with fewer volts: the battery cranks it too slowly.',
    lookAt: [
      { what: 'Battery, its capacity and its cells', why: 'a slow crank makes a hot start' },
      { what: 'Terminals and cables', why: 'a bad joint costs the same volts' },
      { what: 'Starter, its current', why: 'if the battery is as good as new' },
    ],
  },
  {
    id: 'battery',
    needs: ['battery'],
    explains: ['ignition', 'acceleration'],
    words: 'The battery gives less: volts fall further while it cranks.',
    lookAt: [
      { what: 'Battery, its capacity and its cells', why: 'it is what ages first' },
      { what: 'Terminals and cables', why: 'a bad joint costs the same volts' },
    ],
  },
  {
    id: 'air-path',
    needs: ['gas-path', 'acceleration'],
    explains: [],
    words: 'Hotter, and slower: air is lost on its way, or bled off.',
    lookAt: AIR_PATH,
  },
  {
    id: 'gas-path',
    needs: ['gas-path'],
    explains: [],
    words: 'Hotter for the same work: the gas path.',
    lookAt: AIR_PATH,
  },
  {
    id: 'fuel',
    needs: ['ignition', 'acceleration'],
    explains: [],
    words: 'Lights late and climbs slowly: fuel comes late, or too little of it.',
    lookAt: [
      { what: 'Fuel nozzles and filter', why: 'both moments wait for fuel' },
      { what: 'Igniters', why: 'if the climb is as usual once it is lit' },
    ],
  },
  {
    id: 'ignition',
    needs: ['ignition'],
    explains: [],
    words: 'It fires later than it did: spark, or the first fuel.',
    lookAt: [
      { what: 'Igniters or plugs', why: 'they wear with every start' },
      { what: 'Prime and fuel pressure', why: 'no fuel looks the same as no spark' },
    ],
  },
  {
    id: 'acceleration',
    needs: ['acceleration'],
    explains: [],
    words: 'It takes longer to idle, no hotter: the way up has become harder.',
    lookAt: [
      { what: 'Starter release and its current', why: 'it helps less far' },
      { what: 'Bleed valves', why: 'an open one takes the air' },
    ],
  },
  {
    id: 'bearing',
    needs: ['bearing'],
    explains: [],
    words: 'It runs down sooner: something drags.',
    lookAt: [
      { what: 'Bearings, chips and oil', why: 'friction is heard and found in the oil' },
      { what: 'Starter-generator', why: 'its bearings turn along' },
    ],
  },
  {
    id: 'magnetos',
    needs: ['magnetos'],
    explains: [],
    words: 'The drop of a magneto changes: its timing, or a plug.',
    lookAt: [
      { what: 'Plugs of that side', why: 'they foul and wear first' },
      { what: 'Magneto timing', why: 'if the plugs are good' },
    ],
  },
  {
    id: 'other',
    needs: ['other'],
    explains: [],
    words: 'It moves away from what it was.',
    lookAt: [{ what: 'The check itself', why: 'fly it once more with care before anything is opened' }],
  },
];

export interface Finding {
  cause: Cause;
  /** what leads, then what goes with it: ids of signs */
  signs: string[];
  engine: number;
}

/** One finding for each cause: signs that move together are told once. @param moving signs that have become worse */
export function findingsOf(moving: readonly Moving[]): Finding[] {
  const findings: Finding[] = [];
  const told = new Set<string>();
  const engines = [...new Set(moving.map((m) => m.sign.engine).filter((e) => e > 0)), 0];
  for (const engine of engines)
    for (const pattern of PATTERNS) {
      // what all engines share counts with each of them, and stands alone once
      const here = moving.filter((m) => !told.has(m.sign.id) && (m.sign.engine === engine || m.sign.engine === 0));
      const has = (part: Part): boolean => here.some((m) => m.sign.part === part);
      if (!pattern.needs.every(has)) continue;
      if (engine > 0 && !here.some((m) => m.sign.engine === engine && [...pattern.needs, ...pattern.explains].includes(m.sign.part))) continue; // oxfmt-ignore
      const parts = [...pattern.needs, ...pattern.explains];
      const signs = here.filter((m) => parts.includes(m.sign.part)).toSorted((a, b) => parts.indexOf(a.sign.part) - parts.indexOf(b.sign.part)); // oxfmt-ignore
      for (const { sign } of signs) told.add(sign.id);
      const { id, words, lookAt } = pattern;
      findings.push({ cause: { id, words, lookAt }, signs: signs.map((m) => m.sign.id), engine });
    }
  return findings;
}
