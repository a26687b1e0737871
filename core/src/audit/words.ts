import { stagesOf, type TypeFile } from '../aircraft/index.ts';
import { itemsOf } from './conditions.ts';
import type { Finding, Report } from './finding.ts';

/** Letters that the places of a screen have room for, at the narrowest, in two lines of a heading or four of text. */
const ROOM = {
  challenge: 40,
  response: 56,
  why: 200,
  ifSkipped: 120,
  say: 70,
  zone: 24,
  stage: 70,
  figure: 44,
  label: 32,
  short: 14,
  caption: 14,
  leg: 24,
  question: 40,
  alternative: 40,
} as const;

/** Words that do not fit where they are shown. */
export function auditWords(type: TypeFile, report: Report): void {
  const judge = (path: Finding['path'], words: string | undefined, room: keyof typeof ROOM): void => {
    if (words !== undefined && words.length > ROOM[room])
      report(path, `${words.length} letters do not fit: "${words}"`, `say it in ${ROOM[room]}`);
  };
  type.channels.forEach((c, i) => {
    judge(['channels', i, 'label'], c.label, 'label');
    judge(['channels', i, 'short'], c.short, 'short');
  });
  type.captions.list.forEach((c, i) => judge(['captions', 'list', i, 'label'], c.label, 'caption'));
  type.legs.forEach((leg, i) => judge(['legs', i, 'label'], leg.label, 'leg'));
  type.choices.forEach((choice, i) => {
    judge(['choices', i, 'question'], choice.question, 'question');
    choice.alternatives.forEach((a, k) => judge(['choices', i, 'alternatives', k, 'label'], a.label, 'alternative'));
  });
  for (const [path, item] of itemsOf(type)) {
    for (const field of ['challenge', 'response', 'why', 'ifSkipped', 'zone'] as const)
      judge([...path, field], item[field], field);
    if (item.kind === 'call') judge([...path, 'say'], item.say, 'say');
    stagesOf(item).forEach((stage) => judge(path, stage.do, 'stage'));
    if (item.kind === 'measure')
      item.trace?.figures.forEach((f, i) => judge([...path, 'trace', 'figures', i, 'label'], f.label, 'figure'));
  }
}
