import type { TypeFile } from '@rouse/core/aircraft';
import type { BooksMessage, ExceedanceSummary, LoggedRun } from '@rouse/core/contract';
import type { TailTrends } from '@rouse/core/trends';
import type { Block, Report } from './block.ts';
import { hoursWords, ticksOf, whenWords } from './content.ts';

/** A tail's month as its report needs it. */
export interface MonthForReport {
  operator: string;
  tail: string;
  type: TypeFile;
  /** YYYY-MM */
  month: string;
  runs: readonly LoggedRun[];
  books: BooksMessage;
  exceedances: readonly ExceedanceSummary[];
  trends: TailTrends;
  digest: string;
}

/** What a tail flew in a month, what it adds to the books, what was passed, and where its figures go. */
export function monthReport(m: MonthForReport): Report {
  const { books, runs, month, trends } = m;
  const account = (l: (typeof books.book.lines)[number], v: number): string => (l.account.unit === 'h' ? `${v.toFixed(2)} h` : String(v)); // oxfmt-ignore
  const blocks: Block[] = [
    { kind: 'words', words: `${runs.length} ${runs.length === 1 ? 'run' : 'runs'}, ${hoursWords(runs.reduce((sum, r) => sum + (r.flight_s ?? 0), 0))} of flight.`, weight: 'strong' }, // oxfmt-ignore
    { kind: 'heading', words: 'Books' },
    { kind: 'table', head: ['Account', 'This month', 'Corrected in all', 'Total'], widths: [0.4, 0.2, 0.2, 0.2], right: [1, 2, 3], rows: books.book.lines.map((l) => [l.account.label, account(l, l.months.find((x) => x.month === month)?.amount ?? 0), account(l, l.corrected), account(l, l.total)]) }, // oxfmt-ignore
    { kind: 'heading', words: 'Runs' },
    { kind: 'table', head: ['Opened', 'Pilot', 'Ended', 'Running', 'Conditions'], widths: [0.25, 0.15, 0.13, 0.12, 0.35], rows: runs.map((r) => [whenWords(r.openedAt), r.pilot, (r.outcome ?? 'open').replace('-', ' '), r.running_s === null ? '–' : hoursWords(r.running_s), r.conditions]) }, // oxfmt-ignore
    ...exceedanceBlocks(m.exceedances),
    ...trendBlocks(trends),
  ];
  return {
    title: `${m.tail} in ${month}`,
    subtitle: `${m.operator} · ${m.type.name}`,
    digest: { of: 'content', value: m.digest },
    blocks,
  };
}

function exceedanceBlocks(exceedances: MonthForReport['exceedances']): Block[] {
  if (exceedances.length === 0) return [];
  const rows = exceedances.map((e) => [whenWords(e.record.at), `${e.title}: ${e.detail}`, e.release ? `${e.release.engineer}, ${whenWords(e.release.at)}` : 'open']); // oxfmt-ignore
  return [
    { kind: 'heading', words: 'Exceedances' },
    { kind: 'table', head: ['When', 'What', 'Released'], widths: [0.25, 0.47, 0.28], rows },
  ];
}

function trendBlocks({ signs, findings }: TailTrends): Block[] {
  const blocks: Block[] = [{ kind: 'heading', words: 'Trends' }];
  for (const f of findings) blocks.push({ kind: 'words', words: `Look at it: ${f.cause.words}`, weight: 'warning' });
  if (findings.length === 0) blocks.push({ kind: 'words', words: 'Nothing drifts that has enough starts to tell.' });
  for (const { sign, points, judged } of signs) {
    if (judged.course !== 'worse') continue;
    const used = points.filter((p) => !p.leftOut);
    const values = used.map((p) => p.value);
    const limits = sign.limits.map((l) => l.at);
    const [low, high] = [Math.min(...values, ...limits), Math.max(...values, ...limits)];
    const room = 0.05 * (high - low || 1);
    const side = sign.worse === 'low' ? ('below' as const) : ('above' as const);
    blocks.push({
      kind: 'chart',
      chart: {
        title: `${sign.label}, ${sign.unit}, corrected for the day`,
        label: `${sign.label} over ${values.length} starts, from ${values[0]?.toFixed(sign.decimals)} to ${values.at(-1)?.toFixed(sign.decimals)} ${sign.unit}`,
        x: { from: 0, to: Math.max(1, values.length - 1), words: (v) => String(v + 1), ticks: ticksOf(0, values.length - 1, 8) },
        y: { from: low - room, to: high + room, unit: sign.unit, ticks: ticksOf(low - room, high + room) },
        lines: [{ words: sign.label, points: values.map((v, i) => [i, v] as const), dots: true }],
        limits: sign.limits.map((l) => ({ at: l.at, side, words: l.words, never: l.severity === 'warning' })),
        ...(judged.usual && { usual: [judged.usual.middle - 2 * judged.usual.sigma, judged.usual.middle + 2 * judged.usual.sigma] as const }),
        marks: [],
      },
    });
  } // oxfmt-ignore
  return blocks;
}
