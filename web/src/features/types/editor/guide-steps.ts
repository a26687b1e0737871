import type { DraftDesk } from './use-draft.ts';

export interface GuideStep {
  label: string;
  what: string;
  /** parts that it is about, the first one to begin with */
  files: readonly string[];
  done: boolean;
}

type Writing = Pick<DraftDesk, 'row' | 'compiled' | 'folder' | 'touched'>;

/** From nothing to a first run. A step is done when something was written in each of its parts and nothing in them is wrong. */
export function stepsOf({ row, compiled, folder, touched }: Writing, hasTail: boolean): GuideStep[] {
  const wrong = new Set(compiled?.problems.map((p) => p.file));
  const written = (files: readonly string[]): boolean => files.every((f) => touched(f) && !wrong.has(f));
  const part = (label: string, what: string, ...files: string[]): GuideStep => ({ label, what, files, done: written(files) }); // oxfmt-ignore
  const legs = Object.keys(folder).filter((f) => f.startsWith('procedure/'));
  const first = legs.find((f) => f.endsWith('before-start.yaml')) ?? legs[0] ?? '';
  const [list, others] = [[first], legs.filter((f) => f !== first)];
  const released = row?.status === 'released';
  return [
    part('What it is', 'say who makes it, what it is for, and how many engines of which kind.', 'type.yaml'),
    part('Gauges', 'one row for each gauge that is read, with its scale as it is printed.', 'channels.csv'),
    part('Limits', 'every coloured mark of the gauges, from the approved manual; the bars show what the pilot will see.', 'limits.csv'), // oxfmt-ignore
    part('Weight', 'masses, arms and envelope from the manual and the last weighing report.', 'loading.yaml'),
    part('Wind and power', 'wind for the rotor, and the power charts as printed. What stays empty is refused, never guessed.', 'wind.yaml', 'charts/top.csv', 'charts/mcp.csv'), // oxfmt-ignore
    { label: 'The list', what: 'your checklist, leg by leg: each item with its reason and what follows when it is left out.', files: [...list, ...others], done: written(list) && !others.some((f) => wrong.has(f)) }, // oxfmt-ignore
    { label: 'Review', what: 'send it to review below; a second person reads it and releases it.', files: [], done: released }, // oxfmt-ignore
    { label: 'First run', what: 'add a tail of this type, brief it, and work the list once by hand.', files: [], done: released && hasTail }, // oxfmt-ignore
  ];
}
