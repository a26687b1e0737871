import { channelsOf, type TypeFile } from '@rouse/core/aircraft';
import { conditionOf } from '@rouse/core/procedure';
import type { WrittenItem } from '@rouse/core/authoring';

/** An item as it is written, with the items of the type that it stands for. */
export interface LegRow extends WrittenItem {
  /** places in the items of the type */
  items: number[];
}

/** An item as its row and its form show it: as it is compiled, or as it is written while it cannot be. */
export interface ShownItem {
  id: string;
  challenge: string;
  response: string;
  kind: string;
  zone: string;
  sensedBy: string;
  failure: string;
  why: string;
  ifSkipped: string;
  by: string;
}

/** A scalar as text; empty for what is none. */
export const textOf = (value: unknown): string =>
  typeof value === 'string' || typeof value === 'number' ? String(value) : '';

export function shownOf(row: LegRow, type: TypeFile | null): ShownItem {
  const item = row.items[0] === undefined ? undefined : type?.items[row.items[0]];
  const { fields } = row;
  const [challenge = '', response = ''] = textOf(fields['line']).split(' — ');
  const written = {
    id: textOf(row.kind ? fields[row.kind] : (fields['as'] ?? row.use)),
    challenge: challenge || textOf(row.use),
    response,
    kind: row.kind ?? '',
    zone: textOf(fields['zone']),
    failure: row.severity ?? '',
    why: textOf(fields['why']),
    ifSkipped: row.severity ? textOf(fields[row.severity]) : '',
    by: textOf(fields['by']) || 'pilot',
    sensedBy: '',
  };
  if (!item) return written;
  const condition = conditionOf(item);
  return {
    id: item.id,
    // what was just typed is shown at once, what comes from elsewhere as it is compiled
    challenge: fields['line'] === undefined ? item.challenge : written.challenge,
    response: fields['line'] === undefined ? item.response : written.response,
    kind: item.kind,
    zone: written.zone || item.zone,
    sensedBy: condition ? channelsOf(condition).join(', ') : 'by hand',
    failure: row.severity ?? item.failure,
    why: fields['why'] === undefined ? item.why : written.why,
    ifSkipped: row.severity ? written.ifSkipped : item.ifSkipped,
    by: item.by,
  };
}
