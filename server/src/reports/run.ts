import type { TypeFile } from '@rouse/core/aircraft';
import { storyOf, verdictOfRun } from '@rouse/core/debrief';
import type { Compared } from '@rouse/core/health';
import { type Entry, sayClock, sayEntry } from '@rouse/core/procedure';
import type { Booking } from '@rouse/core/shutdown';
import type { Trace } from '@rouse/core/trace';
import type { Block, Report } from './block.ts';
import { hoursWords, legRows, stripOf, whenWords } from './content.ts';

/** A run as its report needs it. */
export interface RunForReport {
  operator: string;
  tail: string;
  pad: string;
  pilot: string;
  openedAt: string;
  conditions: string;
  source: string;
  type: TypeFile;
  entries: readonly Entry[];
  trace: Trace;
  starts: readonly {
    watch: string;
    features: Readonly<Record<string, number | null>>;
    compared: readonly Compared[];
  }[];
  habits: readonly string[];
  booking: Booking | null;
  /** of the journal's last entry */
  digest: string;
}

/** Everything that a run was, for paper. */
export function runReport(run: RunForReport): Report {
  const { type, entries, trace, starts } = run;
  const { verdict, details } = verdictOfRun(type, entries, run.habits);
  const story = storyOf(type, entries, starts);
  const blocks: Block[] = [
    { kind: 'words', words: verdict, weight: 'strong' },
    { kind: 'words', words: details, weight: 'soft' },
    {
      kind: 'facts',
      facts: [
        ['Aircraft', `${run.tail}, ${type.name}, ${run.pad}`],
        ['Opened', `${whenWords(run.openedAt)} by ${run.pilot}`],
        ['Conditions', run.conditions || '–'],
        ['Readings', run.source],
      ],
    },
  ];
  if (story.moments.length > 0) {
    blocks.push({ kind: 'heading', words: 'What mattered' });
    blocks.push({ kind: 'table', head: ['At', 'What', ''], widths: [0.1, 0.4, 0.5], rows: story.moments.map((m) => [sayClock(m.t_s), m.title, m.words]) }); // oxfmt-ignore
  }
  blocks.push(...startBlocks(type, trace, starts), ...bookingBlocks(run.booking));
  blocks.push({ kind: 'heading', words: 'The passage' });
  blocks.push({ kind: 'table', head: ['Leg', 'From', 'To', 'Took'], widths: [0.4, 0.2, 0.2, 0.2], right: [1, 2, 3], rows: legRows(type, entries) }); // oxfmt-ignore
  blocks.push({ kind: 'heading', words: 'Journal' });
  blocks.push({ kind: 'table', head: ['At', 'What', 'In words'], widths: [0.1, 0.42, 0.48], rows: journalRows(type, entries) }); // oxfmt-ignore
  return {
    title: `Run of ${run.tail}`,
    subtitle: `${run.operator} · ${whenWords(run.openedAt)} · ${run.pilot}`,
    digest: { of: 'journal', value: run.digest },
    blocks,
  };
}

function journalRows(type: TypeFile, entries: readonly Entry[]): string[][] {
  return entries.flatMap((e) => {
    const words = sayEntry(type, e);
    return words ? [[sayClock(e.t), words.title, words.detail]] : [];
  });
}

/** so long before the starter and after idle a drawing goes */
const AROUND_S = 6;
const LONGEST_START_S = 75;

function startBlocks(type: TypeFile, trace: Trace, starts: RunForReport['starts']): Block[] {
  return starts.flatMap(({ watch, features, compared }): Block[] => {
    const spec = type.startWatches.find((w) => w.id === watch);
    const from_s = features['starterAt_s'] ?? null;
    if (!spec || from_s === null) return [];
    const to_s = (features['idleAt_s'] ?? from_s + LONGEST_START_S) + AROUND_S;
    const span = { from_s: Math.max(0, from_s - AROUND_S), to_s, phases: ['start'] };
    const channels = spec.kind === 'turbine' ? [spec.channels.temperature, spec.channels.volts] : [spec.channels.volts];
    return [
      { kind: 'heading', words: `Start, ${spec.label.toLowerCase()}` },
      { kind: 'table', head: ['Figure', 'This start', 'Usually'], widths: [0.4, 0.25, 0.35], right: [1], rows: compared.filter((c) => c.value !== null).map(comparedRow) }, // oxfmt-ignore
      ...channels.flatMap((c) => stripOf(type, trace, c, span)),
    ];
  });
}

function comparedRow({ spec, value, usual }: Compared): string[] {
  const say = (v: number): string => v.toFixed(spec.decimals);
  return [
    spec.label,
    `${say(value!)} ${spec.unit}`,
    usual ? `${say(usual.low)} to ${say(usual.high)} ${spec.unit}` : 'too few earlier starts',
  ];
}

function bookingBlocks(booking: Booking | null): Block[] {
  if (!booking) return [];
  const rows = [
    ...booking.engines.map((e) => [
      `Engine ${e.engine}`,
      e.starts === 1 ? '1 start' : `${e.starts} starts`,
      hoursWords(e.running_s),
    ]),
    ['Flight', '', hoursWords(booking.flight_s)],
    ['Rotor', booking.rotorCycles === 1 ? '1 cycle' : `${booking.rotorCycles} cycles`, ''],
    ...booking.ratings.map((r) => [`${r.label}, engine ${r.engine}`, `${r.uses} uses`, r.inspection ?? '']),
  ];
  return [
    { kind: 'heading', words: 'Booked' },
    { kind: 'table', head: ['', 'Times', 'Hours, or what it costs'], widths: [0.4, 0.25, 0.35], rows },
  ];
}
