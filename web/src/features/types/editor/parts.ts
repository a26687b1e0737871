import type { DraftType } from './use-draft.ts';

/** A part of a type: one file of its folder. */
export interface Part {
  file: string;
  label: string;
  /** how it is changed */
  as: 'table' | 'leg' | 'form';
  /** under the heading of the procedure */
  inProcedure?: boolean;
}

const HEAD: readonly Part[] = [
  { file: 'type.yaml', label: 'Identity and roles', as: 'form' },
  { file: 'channels.csv', label: 'Channels', as: 'table' },
  { file: 'limits.csv', label: 'Limits', as: 'table' },
  { file: 'loading.yaml', label: 'Loading', as: 'form' },
  { file: 'wind.yaml', label: 'Wind', as: 'form' },
  { file: 'charts/top.csv', label: 'Take-off power', as: 'table' },
  { file: 'charts/mcp.csv', label: 'Continuous power', as: 'table' },
  { file: 'charts/never-exceed.csv', label: 'Never exceed', as: 'table' },
  { file: 'captions.csv', label: 'Captions', as: 'table' },
  { file: 'electrical.csv', label: 'Electrical', as: 'table' },
  { file: 'cockpit.csv', label: 'Cockpit', as: 'table' },
  { file: 'equipment.csv', label: 'Equipment', as: 'table' },
];
const TAIL: readonly Part[] = [
  { file: 'watch.yaml', label: 'Watch', as: 'form' },
  { file: 'aborts.yaml', label: 'Aborts', as: 'form' },
  { file: 'ways.yaml', label: 'Ways of working', as: 'form' },
  { file: 'ratings.yaml', label: 'Ratings', as: 'form' },
  { file: 'performance.yaml', label: 'Performance', as: 'form' },
  { file: 'thermal.yaml', label: 'Battery and warmth', as: 'form' },
  { file: 'conditions.yaml', label: 'Stand-in', as: 'form' },
  { file: 'simulator.yaml', label: 'Simulator', as: 'form' },
];

/** The parts of a draft, in the order in which a type is read. */
export function partsOf(folder: Readonly<Record<string, string>>, compiled: DraftType | null): Part[] {
  const order = compiled?.type?.legs.map((l) => l.id) ?? [];
  const labels = new Map(compiled?.type?.legs.map((l) => [l.id, l.label]));
  const placeOf = (leg: string): number => (order.includes(leg) ? order.indexOf(leg) : order.length);
  const legs = Object.keys(folder)
    .flatMap((file) => /^procedure\/(.+)\.yaml$/.exec(file)?.[1] ?? [])
    .toSorted((a, b) => placeOf(a) - placeOf(b))
    .map((leg): Part => ({ file: `procedure/${leg}.yaml`, label: labels.get(leg) ?? leg, as: 'leg', inProcedure: true })); // oxfmt-ignore
  const there = ({ file }: Part): boolean => file in folder;
  return [...HEAD.filter(there), ...legs, ...TAIL.filter(there)];
}

/** One line of the list of parts. */
export interface PartLine extends Part {
  /** how many there are of what it holds; null for a form */
  count: number | null;
  wrong: number;
}

/** The parts as the list shows them. */
export function linesOf(
  parts: readonly Part[],
  folder: Readonly<Record<string, string>>,
  compiled: DraftType | null,
): PartLine[] {
  // oxfmt-ignore
  const wrong = new Map<string, number>();
  for (const { file } of compiled?.problems ?? []) wrong.set(file, (wrong.get(file) ?? 0) + 1);
  return parts.map((part) => ({
    ...part,
    count: countOf(part, folder[part.file] ?? '', compiled),
    wrong: wrong.get(part.file) ?? 0,
  }));
}

function countOf({ file, as }: Part, text: string, compiled: DraftType | null): number | null {
  if (as === 'leg') return compiled?.items[file]?.length ?? null;
  if (as === 'table') return text.split('\n').filter((l) => l.trim() !== '' && !l.startsWith('#')).length - 1;
  return null;
}
