import type { TypeFile } from '@rouse/core/aircraft';
import type { ExceedanceMessage } from '@rouse/core/contract';
import type { Trace } from '@rouse/core/trace';
import type { Block, Report } from './block.ts';
import { stripOf, whenWords } from './content.ts';

export interface ExceedanceForReport {
  operator: string;
  exceedance: ExceedanceMessage;
  type: TypeFile;
  trace: Trace;
  digest: string;
}

const AROUND_S = 20;

/** One exceedance: what was passed, for how long, what was done, who released it. */
export function exceedanceReport({ operator, exceedance, type, trace, digest }: ExceedanceForReport): Report {
  const { record, tail, release, notes, attachments } = exceedance;
  const blocks: Block[] = [
    { kind: 'words', words: `${exceedance.title}: ${exceedance.detail}`, weight: release ? 'strong' : 'warning' },
    {
      kind: 'words',
      words: release
        ? `Released by ${release.engineer}, ${whenWords(release.at)}.`
        : 'Not released: it holds the next start of this aircraft.',
      weight: 'strong',
    },
    { kind: 'facts', facts: factsOf(exceedance, type) },
  ];
  if (record.kind === 'exceedance')
    blocks.push(...stripOf(type, trace, record.channel, {
      from_s: Math.max(0, record.start_s - AROUND_S),
      to_s: record.end_s + AROUND_S,
      marks: [{ x: record.peakAt_s, words: `${record.peak}` }],
    })); // oxfmt-ignore
  if (exceedance.asks) blocks.push({ kind: 'heading', words: 'What the type says' }, { kind: 'words', words: exceedance.asks }); // oxfmt-ignore
  if (notes.length > 0)
    blocks.push(
      { kind: 'heading', words: 'Said and done' },
      { kind: 'table', head: ['When', 'Who', 'What'], widths: [0.25, 0.18, 0.57], rows: notes.map((n) => [whenWords(n.at), n.by, `${n.kind === 'disputed' ? 'Disputed: ' : ''}${n.words}`]) }, // oxfmt-ignore
    );
  if (attachments.length > 0)
    blocks.push(
      { kind: 'heading', words: 'Attached' },
      { kind: 'table', head: ['When', 'Who', 'File', 'Bytes'], widths: [0.25, 0.18, 0.43, 0.14], right: [3], rows: attachments.map((a) => [whenWords(a.at), a.by, a.name, String(a.size)]) }, // oxfmt-ignore
    );
  if (release)
    blocks.push({ kind: 'heading', words: 'Release' }, { kind: 'words', words: release.found }, { kind: 'words', words: `${release.engineer}, ${whenWords(release.at)}`, weight: 'soft' }); // oxfmt-ignore
  return {
    title: `Exceedance of ${tail}`,
    subtitle: `${operator} · ${whenWords(record.at)}`,
    digest: { of: 'journal', value: digest },
    blocks,
  };
}

function factsOf(
  { record, tail, pilot, runOpenedAt, disputed }: ExceedanceMessage,
  type: TypeFile,
): (readonly [string, string])[] {
  const run = ['Run', `${tail}, opened ${whenWords(runOpenedAt)} by ${pilot}`] as const;
  const words = disputed ? [['Disputed', 'somebody says that the reading was wrong'] as const] : [];
  if (record.kind !== 'exceedance') return [run, ['Engine', String(record.engine)], ...words];
  const unit = type.channels.find((c) => c.id === record.channel)?.unit ?? '';
  return [
    run,
    ['Limit', `${record.limit}, band ${record.band}, edge ${record.edge} ${unit}`],
    ['Time past it', `${record.duration_s.toFixed(3)} s; ${record.allowed_s} s are allowed`],
    ['Peak', `${record.peak} ${unit} at ${record.peakAt_s.toFixed(2)} s of the run`],
    ...words,
  ];
}
