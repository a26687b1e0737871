import { insertElement, moveElement, removeAt, writtenItems } from '@rouse/core/authoring';
import { type ReactNode, useCallback, useEffect, useMemo, useState } from 'react';
import styled from 'styled-components';
import { SlimButton } from '../../../ui/button.tsx';
import { ItemForm } from './item-form.tsx';
import { LegLine } from './leg-line.tsx';
import { PartHead } from './part-head.tsx';
import type { Part } from './parts.ts';
import { type LegRow, shownOf } from './shown.ts';
import type { DraftDesk } from './use-draft.ts';
import { useSteady } from './use-steady.ts';

const List = styled.ol`
  list-style: none;
  margin: 0;
  padding: 0 0 16px;
`;

interface LegProps {
  part: Part;
  desk: DraftDesk;
  line: number | undefined;
  locked: boolean;
  extra: ReactNode;
  showItem: (item: number | null) => void;
}

const NEW_ITEM = ['check: new-item', 'line: New item — seen', 'zone: cabin', 'why: Say why.', 'note: Say what happens when it is left out.']; // oxfmt-ignore

/** A leg of the procedure: its items in order, one of them open. */
export function LegEditor({ part, desk, line, locked, extra, showItem }: LegProps) {
  const { file } = part;
  const text = desk.folder[file] ?? '';
  const items = desk.compiled?.items[file];
  // what was just typed stands at once; which items of the type it is follows
  const rows = useMemo(
    () => writtenItems(text).map((row, i): LegRow => ({ ...row, items: items?.[i] ?? [] })),
    [text, items],
  );
  const [open, setOpen] = useState<number | null>(null);
  const wrong = new Set(desk.compiled?.problems.flatMap((p) => (p.file === file ? [p.line] : [])));
  useEffect(() => {
    if (line === undefined) return;
    const at = rows.findLastIndex((r) => r.line <= line);
    if (at >= 0) setOpen(at);
    // only a jump to a line opens an item by itself
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, [line]);
  useEffect(() => showItem(open === null ? null : (rows[open]?.items[0] ?? null)), [open, rows, showItem]);
  const at = (row: LegRow | undefined): number => Number(row?.path.at(-1));
  const listOf = (row: LegRow): string => row.path.slice(0, -1).join('.');
  const move = useSteady((from: number, to: number): void => {
    const [a, b] = [rows[from], rows[to]];
    if (!a || !b || listOf(a) !== listOf(b)) return;
    desk.change(file, moveElement(text, a.path.slice(0, -1), at(a), at(b)));
    setOpen(to);
  });
  const toggle = useCallback((i: number) => setOpen((now) => (now === i ? null : i)), []);
  const add = (): void => {
    const after = open === null ? rows.at(-1) : rows[open];
    const path = after?.path.slice(0, -1) ?? ['items'];
    desk.change(file, insertElement(text, path, after ? at(after) + 1 : 0, NEW_ITEM));
    setOpen(open === null ? rows.length : open + 1);
  };
  return (
    <>
      <PartHead title={part.label} about={`${rows.length} items`}>
        <SlimButton isDisabled={locked} onPress={add}>
          + Item
        </SlimButton>
        {extra}
      </PartHead>
      <List aria-label={`Items of ${part.label}`}>
        {rows.map((row, i) => {
          const shown = shownOf(row, desk.compiled?.type ?? null);
          return (
            <LegLine
              key={i}
              at={i}
              shown={shown}
              open={open === i}
              wrong={wrong.has(row.line)}
              locked={locked}
              toggle={toggle}
              move={move}
            >
              {open === i && (
                <ItemForm
                  file={file}
                  row={row}
                  shown={shown}
                  desk={desk}
                  locked={locked}
                  move={(by) => move(i, i + by)}
                  remove={() => {
                    desk.change(file, removeAt(text, row.path));
                    setOpen(null);
                  }}
                />
              )}
            </LegLine>
          );
        })}
      </List>
    </>
  );
}
