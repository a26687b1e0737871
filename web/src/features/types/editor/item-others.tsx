import { ITEM_KINDS } from '@rouse/core/aircraft';
import { writtenTree } from '@rouse/core/authoring';
import { useMemo } from 'react';
import { FormFields } from './form-editor.tsx';
import type { ItemProps } from './item-order.tsx';
import { wrongLines } from './shown-form.ts';

/** fields that have a place of their own in the form of an item */
const SHOWN = new Set<string>([...ITEM_KINDS, 'no-go', 'caution', 'note', 'line', 'zone', 'by', 'why', 'expect', 'until', 'needs', 'meanwhile', 'opens', 'closedBy']); // oxfmt-ignore

/** Everything else that is written of an item: stages, figures, moments, what a stand-in moves. */
export function ItemOthers({ file, row, desk, locked }: ItemProps) {
  const text = desk.folder[file] ?? '';
  const found = useMemo(() => {
    let nodes = writtenTree(text);
    for (const step of row.path) nodes = nodes.find((n) => n.name === step)?.inner ?? [];
    return nodes.filter((n) => !SHOWN.has(String(n.name)));
  }, [text, row.path]);
  if (found.length === 0) return null;
  const type = desk.compiled?.type ?? null;
  return (
    <div className="others">
      <FormFields
        nodes={found}
        shown={{ text, wrong: wrongLines(desk, file), locked, type, put: (to) => desk.change(file, to) }}
        deep={1}
      />
    </div>
  );
}
