import { copyElement, headRemark, moveElement, removeAt, type WrittenNode, writtenTree } from '@rouse/core/authoring';
import { useEffect, useMemo, useRef } from 'react';
import styled from 'styled-components';
import { SlimButton } from '../../../ui/button.tsx';
import { PartHead } from './part-head.tsx';
import type { TextEditorProps } from './text-editor.tsx';
import { sayName, type ShownForm, wrongLines } from './shown-form.ts';
import { ValueField } from './value-field.tsx';

const Body = styled.div`
  padding: 0 16px 24px;
  display: grid;
  gap: 10px;
`;

const Fields = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 13.125rem), 1fr));
  gap: 10px 12px;
  align-items: start;
  > [data-wide] {
    grid-column: 1 / -1;
  }
`;

const Group = styled.details`
  grid-column: 1 / -1;
  border: 1px solid var(--line);
  border-radius: 10px;
  background: var(--sheet);
  padding: 0 12px;
  &[open] {
    padding-bottom: 12px;
  }
  &[data-wrong] {
    border-color: var(--caution);
  }
  > summary {
    cursor: pointer;
    padding: 9px 0;
    font-weight: 650;
    font-size: 0.875rem;
    overflow-wrap: anywhere;
  }
  > summary:focus-visible {
    outline: 2px solid var(--now);
    outline-offset: 1px;
  }
  > p {
    font-size: 0.8125rem;
    color: var(--soft);
    margin-bottom: 8px;
    white-space: pre-line;
  }
`;

const SignInPage = styled.div`
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
  margin-top: 10px;
`;

/** A part field by field: what is written in its file, with the remarks above it. Every change is one place of the file. */
export function FormEditor({ part, desk, line, locked, extra }: TextEditorProps) {
  const text = desk.folder[part.file] ?? '';
  const tree = useMemo(() => writtenTree(text), [text]);
  const body = useRef<HTMLDivElement>(null);
  const wrong = wrongLines(desk, part.file);
  useEffect(() => {
    if (line === undefined) return;
    const fields = [...(body.current?.querySelectorAll<HTMLElement>('[data-line]') ?? [])];
    const field = fields.findLast((e) => Number(e.dataset['line']) <= line) ?? fields[0];
    for (let up = field?.parentElement; up; up = up.parentElement) if (up instanceof HTMLDetailsElement) up.open = true;
    field?.querySelector<HTMLElement>('input, textarea, select')?.focus();
    field?.scrollIntoView({ block: 'center' });
  }, [line]);
  const shown: ShownForm = { text, wrong, locked, type: desk.compiled?.type ?? null, put: (to) => desk.change(part.file, to) }; // oxfmt-ignore
  return (
    <>
      <PartHead title={part.label} about={headRemark(text)}>
        {extra}
      </PartHead>
      <Body ref={body}>
        {tree.length === 0 ? (
          <p role="alert">This cannot be read as fields; mend it as text.</p>
        ) : (
          <FormFields nodes={tree} shown={shown} deep={0} />
        )}
      </Body>
    </>
  );
}

interface FieldsProps {
  nodes: readonly WrittenNode[];
  shown: ShownForm;
  deep: number;
}

/** Fields of a file, each with what is wrong with it and the remark above it. */
export function FormFields({ nodes, shown, deep }: FieldsProps) {
  return (
    <Fields>
      {nodes.map((node) =>
        node.inner ? (
          <Inner key={node.name} node={node} inner={node.inner} shown={shown} deep={deep} />
        ) : (
          <ValueField key={node.name} node={node} shown={shown} />
        ),
      )}
    </Fields>
  );
}

interface InnerProps {
  node: WrittenNode;
  inner: readonly WrittenNode[];
  shown: ShownForm;
  deep: number;
}

function Inner({ node, inner, shown, deep }: InnerProps) {
  const open = deep === 0 && inner.length <= 12;
  return (
    <Group open={open} data-wrong={hasWrong(node, shown.wrong) || undefined}>
      <summary>
        {sayName(node.name)}
        {node.of === 'list' && ` (${inner.length})`}
      </summary>
      {node.remark !== null && <p>{node.remark}</p>}
      {node.of === 'map' ? (
        <FormFields nodes={inner} shown={shown} deep={deep + 1} />
      ) : (
        inner.map((element, i) => (
          <Element key={i} element={element} at={i} of={inner.length} list={node} shown={shown} deep={deep + 1} />
        ))
      )}
    </Group>
  );
}

interface ElementProps {
  element: WrittenNode;
  at: number;
  of: number;
  list: WrittenNode;
  shown: ShownForm;
  deep: number;
}

/** One element of a list, with what can be done to it: copied as the beginning of another one, moved, taken away. */
function Element({ element, at, of, list, shown, deep }: ElementProps) {
  const { text, put, locked } = shown;
  const title = titleOf(element) ?? `${at + 1}`;
  return (
    <Group data-element={title} data-wrong={hasWrong(element, shown.wrong) || undefined}>
      <summary>{title}</summary>
      {element.remark !== null && <p>{element.remark}</p>}
      {element.inner ? (
        <FormFields nodes={element.inner} shown={shown} deep={deep} />
      ) : (
        <ValueField node={element} shown={shown} />
      )}
      <SignInPage>
        <SlimButton isDisabled={locked} onPress={() => put(copyElement(text, list.path, at))}>
          Another like this
        </SlimButton>
        <SlimButton isDisabled={locked || at === 0} onPress={() => put(moveElement(text, list.path, at, at - 1))}>
          Move up
        </SlimButton>
        <SlimButton isDisabled={locked || at === of - 1} onPress={() => put(moveElement(text, list.path, at, at + 1))}>
          Move down
        </SlimButton>
        <SlimButton isDisabled={locked || of === 1} onPress={() => put(removeAt(text, element.path))}>
          Remove
        </SlimButton>
      </SignInPage>
    </Group>
  );
}

const TITLES = ['label', 'line', 'question', 'words', 'name', 'id', 'zone', 'use', 'channel', 'phase', 'check'];

/** What a list element is called by: its label, its line, or else its first word. */
function titleOf({ inner }: WrittenNode): string | null {
  const named = TITLES.map((t) => inner?.find((n) => n.name === t && n.value !== null)).find((n) => n !== undefined);
  const first = named ?? inner?.find((n) => n.value !== null && !n.isList);
  return first ? String(first.value) : null;
}

function hasWrong(node: WrittenNode, wrong: ReadonlyMap<number, string>): boolean {
  return wrong.has(node.line) || (node.inner ?? []).some((n) => hasWrong(n, wrong));
}
