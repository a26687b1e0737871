import { setMember, setText, type WrittenNode } from '@rouse/core/authoring';
import { useId, useState } from 'react';
import styled from 'styled-components';
import { mono } from '../../../app/theme.ts';
import { ConditionField } from './condition-field.tsx';
import { sayName, type ShownForm } from './shown-form.ts';

const Field = styled.div`
  display: grid;
  gap: 3px;
  font-size: 0.78125rem;
  color: var(--soft);
  min-width: 0;
  label {
    font-weight: 600;
    overflow-wrap: anywhere;
  }
  input,
  textarea,
  select {
    font: inherit;
    font-size: 0.875rem;
    color: var(--ink);
    background: var(--sheet);
    border: 1px solid var(--button-line);
    border-radius: 8px;
    padding: 7px 9px;
    min-height: 2.375rem;
    min-width: 0;
  }
  input[data-figure],
  textarea[data-figure] {
    ${mono}
  }
  [aria-invalid] {
    border-color: var(--caution);
  }
  small[role] {
    color: var(--caution);
  }
  textarea {
    resize: vertical;
    field-sizing: content;
  }
`;

/** what is read as a condition wherever it stands */
const CONDITIONS = new Set(['condition', 'until', 'expect']);
const LONG = 34;

/** One value of a file: what is typed is written to its place; what cannot be read there stays here, and is said. */
export function ValueField({ node, shown }: { node: WrittenNode; shown: ShownForm }) {
  const id = useId();
  const [typed, setTyped] = useState<string | null>(null);
  const { text, locked, type, put } = shown;
  const label = sayName(node.name);
  const value = typed ?? String(node.value ?? '');
  // a field is not changed for another one under the hand that types
  const [long] = useState(() => value.length > LONG);
  const set = (words: string): void => {
    setTyped(words);
    const after = node.isList
      ? setText(text, node.path, words)
      : setMember(text, node.path, plainOf(words, node.value));
    if (after !== null) put(after);
  };
  if (CONDITIONS.has(String(node.name)) && typeof node.value === 'string')
    return (
      <div data-line={node.line} data-wide>
        <ConditionField label={label} value={value} type={type} locked={locked} onChange={set} />
      </div>
    );
  const unread = typed !== null && node.isList && setText(text, node.path, typed) === null;
  const wrong = unread ? 'A list stands in brackets, its parts between commas.' : shown.wrong.get(node.line);
  const common = {
    id,
    value,
    'aria-invalid': wrong !== undefined || undefined,
    'aria-describedby': `${id}-help`,
    onBlur: () => setTyped(unread ? typed : null),
  };
  const change = (e: { target: { value: string } }): void => set(e.target.value);
  return (
    <Field data-line={node.line} data-wide={long || undefined}>
      <label htmlFor={id}>{label}</label>
      {typeof node.value === 'boolean' ? (
        <select {...common} disabled={locked} onChange={change}>
          <option value="true">yes</option>
          <option value="false">no</option>
        </select>
      ) : long ? (
        <textarea {...common} rows={2} readOnly={locked} data-figure={node.isList || undefined} onChange={change} />
      ) : (
        <input
          {...common}
          autoComplete="off"
          readOnly={locked}
          data-figure={typeof node.value === 'number' || node.isList || undefined}
          onChange={change}
        />
      )}
      {wrong !== undefined ? (
        <small role="alert" id={`${id}-help`}>
          {wrong}
        </small>
      ) : (
        node.remark !== null && <small id={`${id}-help`}>{node.remark}</small>
      )}
    </Field>
  );
}

/** What was typed, as a figure or a yes where one stood before and it can be read as one. */
function plainOf(words: string, before: WrittenNode['value']): string | number | boolean {
  if (typeof before === 'boolean') return words === 'true';
  if (typeof before === 'number' && words.trim() !== '' && Number.isFinite(Number(words))) return Number(words);
  return words;
}
