import type { Brief, BriefContext } from '@rouse/core/brief';
import type { Report } from './block.ts';
import { whenWords } from './content.ts';

/** A brief to carry along. */
export interface BriefForReport {
  operator: string;
  pilot: string;
  context: Pick<BriefContext, 'tail' | 'pad' | 'now'> & { type: { name: string }; site: { name: string } };
  brief: Brief;
  /** figures in words, with the reason where one is not known */
  figures: readonly (readonly [string, string])[];
  plan: readonly (readonly [string, string])[];
  digest: string;
}

export function briefReport({ operator, pilot, context, brief, figures, plan, digest }: BriefForReport): Report {
  const held = brief.objections;
  return {
    title: `Brief for ${context.tail}`,
    subtitle: `${operator} · ${context.type.name}, ${context.pad} · ${whenWords(context.now)} · ${pilot}`,
    digest: { of: 'brief', value: digest },
    blocks: [
      { kind: 'words', words: brief.record.words || 'No conditions entered', weight: 'strong' },
      { kind: 'words', words: brief.clear ? 'Nothing holds it.' : 'Something holds it: see below.', weight: brief.clear ? 'soft' : 'warning' }, // oxfmt-ignore
      ...(held.length === 0
        ? []
        : [
            { kind: 'heading' as const, words: 'What holds it, and what to look out for' },
            { kind: 'table' as const, head: ['', 'What', 'Why', 'Accepted because'], widths: [0.1, 0.25, 0.4, 0.25], rows: held.map((o) => [o.severity, o.title, o.words, brief.record.accepted.find((a) => a.objection === o.id)?.reason ?? '']) }, // oxfmt-ignore
          ]),
      { kind: 'heading', words: 'What today allows' },
      { kind: 'facts', facts: figures },
      { kind: 'heading', words: 'The plan' },
      { kind: 'facts', facts: plan },
    ],
  };
}
