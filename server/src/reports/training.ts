import type { DrillRow } from '@rouse/core/contract';
import { PASSED } from '@rouse/core/drill';
import type { Block, Report } from './block.ts';
import { whenWords } from './content.ts';

/** A person's training as its record needs it. */
export interface TrainingForReport {
  operator: string;
  name: string;
  /** newest first */
  drills: readonly DrillRow[];
  digest: string;
}

/** What a person has flown on the simulator: lessons, marks, what cost most, and who has signed. */
export function trainingReport({ operator, name, drills, digest }: TrainingForReport): Report {
  const passed = drills.filter((d) => d.sum >= PASSED).length;
  const rows = drills.map((d) => [
    whenWords(d.at),
    d.type,
    d.title,
    String(d.sum),
    d.worst.slice(0, 3).join('; ') || 'nothing',
    d.signed ? `${d.signed.by}, ${whenWords(d.signed.at)}` : 'not signed',
  ]);
  const blocks: Block[] = [
    { kind: 'words', words: `${drills.length} drills, ${passed} of them with ${PASSED} marks of 100 or more.`, weight: 'strong' },
    { kind: 'words', words: 'Flown on the simulator. No aircraft’s record knows of them.', weight: 'soft' },
    { kind: 'table', head: ['When', 'Type', 'Lesson', 'Marks', 'What cost most', 'Signed'], widths: [0.15, 0.07, 0.22, 0.08, 0.28, 0.2], right: [3], rows },
  ]; // oxfmt-ignore
  const disputed = drills.flatMap((d) => d.disputes.map((of) => [whenWords(of.at), d.title, of.mark, of.note]));
  if (disputed.length > 0)
    blocks.push(
      { kind: 'words', words: 'Said against marks; the marks stay as they are.', weight: 'strong' },
      { kind: 'table', head: ['When', 'Lesson', 'Mark', 'What is said'], widths: [0.15, 0.2, 0.3, 0.35], right: [], rows: disputed },
    ); // oxfmt-ignore
  return { title: `Training of ${name}`, subtitle: operator, digest: { of: 'content', value: digest }, blocks };
}
