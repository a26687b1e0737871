import type { TypeFile } from '@rouse/core/aircraft';
import { bandWords } from '@rouse/core/aircraft';
import type { Block, Report } from './block.ts';

/** A type on paper: its list by legs with reasons, its limits, what is done after a stop. */
export function bookletReport(type: TypeFile, digest: string): Report {
  const blocks: Block[] = [
    { kind: 'words', words: type.role },
    ...type.legs.flatMap((leg): Block[] => {
      const items = type.items.filter((i) => i.leg === leg.id);
      if (items.length === 0) return [];
      const rows = items.map((i) => [i.challenge, i.response, i.why]);
      return [
        { kind: 'heading', words: leg.label },
        { kind: 'table', head: ['Challenge', 'Response', 'Why'], widths: [0.28, 0.22, 0.5], rows },
      ];
    }),
    { kind: 'heading', words: 'Limits' },
    { kind: 'table', head: ['Reading', 'In', 'Limit', 'Then'], widths: [0.26, 0.2, 0.22, 0.32], rows: limitRows(type) },
    { kind: 'heading', words: 'When a start is stopped' },
    ...Object.values(type.aborts).flatMap((abort): Block[] => [
      { kind: 'words', words: abort.title, weight: 'strong' },
      { kind: 'words', words: abort.actions.map((a, i) => `${i + 1}. ${actionOf(type, a)}`).join('   ') },
    ]),
  ];
  return {
    title: `${type.name}, version ${type.version}`,
    subtitle: 'Procedure, limits and reasons',
    digest: { of: 'type', value: digest },
    blocks,
  };
}

function limitRows(type: TypeFile): string[][] {
  return type.limits.flatMap((limit) => {
    const channel = type.channels.find((c) => c.id === limit.channel);
    return limit.bands.map((band) => [channel?.label ?? limit.channel, limit.phases.join(', '), bandWords(band, channel?.unit ?? ''), band.action]); // oxfmt-ignore
  });
}

/** An action of an abort is an item of the list. */
function actionOf(type: TypeFile, action: unknown): string {
  if (typeof action === 'string') {
    const item = type.items.find((i) => i.id === action);
    return item ? `${item.challenge}: ${item.response}` : action;
  }
  const { challenge, response } = action as { challenge?: string; response?: string };
  return [challenge, response].filter(Boolean).join(': ');
}
