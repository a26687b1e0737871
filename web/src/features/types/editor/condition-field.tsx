import type { TypeFile } from '@rouse/core/aircraft';
import { parseCondition } from '@rouse/core/authoring';
import { useId, useRef, useState } from 'react';
import { flushSync } from 'react-dom';
import styled from 'styled-components';
import { mono } from '../../../app/theme.ts';

const Field = styled.fieldset`
  position: relative;
  input {
    ${mono}
  }
  small {
    font-weight: 400;
  }
  small[data-wrong] {
    color: var(--caution);
  }
  [role='listbox'] {
    position: absolute;
    z-index: 2;
    top: 100%;
    left: 0;
    right: 0;
    margin: 2px 0 0;
    padding: 4px;
    background: var(--sheet);
    border: 1px solid var(--button-line);
    border-radius: 8px;
    box-shadow: 0 6px 18px rgb(0 0 0 / 18%);
  }
  [role='option'] {
    ${mono}
    padding: 8px;
    border-radius: 6px;
    color: var(--ink);
    font-weight: 400;
    cursor: pointer;
  }
  [role='option'][aria-selected='true'] {
    background: var(--usual1);
  }
`;

const MOST = 6;

/** The word before the caret, and the channels that begin so. */
function offered(text: string, caret: number, type: TypeFile | null): { from: number; ids: string[] } {
  const word = /[a-z][a-z0-9.-]*$/i.exec(text.slice(0, caret))?.[0] ?? '';
  const ids = [
    ...(type?.channels.map((c) => c.id) ?? []),
    ...(type?.captions.list.map((c) => `${type.captions.channel}.${c.id}`) ?? []),
  ];
  const begin = ids.filter((id) => id.startsWith(word) && id !== word);
  return { from: caret - word.length, ids: word.length < 2 ? [] : begin.slice(0, MOST) };
}

interface FieldProps {
  label: string;
  value: string;
  type: TypeFile | null;
  locked: boolean;
  onChange: (value: string) => void;
}

/** A condition as one line, with the channels completed and what is wrong said below. */
export function ConditionField({ label, value, type, locked, onChange }: FieldProps) {
  const id = useId();
  const field = useRef<HTMLInputElement>(null);
  const [caret, setCaret] = useState<number | null>(null);
  const [chosen, setChosen] = useState(0);
  const { from, ids } = caret === null ? { from: 0, ids: [] } : offered(value, caret, type);
  const wrong = wrongWith(value, type);
  const take = (channel: string): void => {
    const end = from + channel.length;
    // what is typed next goes behind it
    flushSync(() => {
      onChange(value.slice(0, from) + channel + value.slice(caret ?? value.length));
      setCaret(null);
    });
    field.current?.focus();
    field.current?.setSelectionRange(end, end);
  };
  return (
    <Field>
      <label htmlFor={id}>{label}</label>
      <input
        id={id}
        ref={field}
        role="combobox"
        aria-expanded={ids.length > 0}
        aria-controls={`${id}-ids`}
        aria-describedby={`${id}-wrong`}
        aria-invalid={wrong !== null || undefined}
        autoComplete="off"
        spellCheck={false}
        readOnly={locked}
        placeholder="by hand"
        value={value}
        onChange={(e) => {
          setChosen(0);
          setCaret(e.target.selectionStart);
          onChange(e.target.value);
        }}
        onBlur={() => setCaret(null)}
        onKeyDown={(e) => {
          if (ids.length === 0) return;
          if (e.key === 'ArrowDown' || e.key === 'ArrowUp') {
            e.preventDefault();
            setChosen((chosen + (e.key === 'ArrowDown' ? 1 : ids.length - 1)) % ids.length);
          } else if (e.key === 'Enter' || e.key === 'Tab') {
            e.preventDefault();
            take(ids[chosen]!);
          } else if (e.key === 'Escape') setCaret(null);
        }}
      />
      {ids.length > 0 && (
        <div id={`${id}-ids`} role="listbox" aria-label="Channels">
          {ids.map((channel, i) => (
            <div
              key={channel}
              role="option"
              aria-selected={i === chosen}
              onPointerDown={(e) => (e.preventDefault(), take(channel))}
            >
              {channel}
            </div>
          ))}
        </div>
      )}
      <small id={`${id}-wrong`} data-wrong={wrong !== null || undefined}>
        {wrong ?? (value === '' ? 'Nothing senses it: the pilot says it' : 'Unknown when the signal is lost')}
      </small>
    </Field>
  );
}

function wrongWith(value: string, type: TypeFile | null): string | null {
  if (!type || value === '' || value.includes('{')) return null;
  try {
    parseCondition(value, { channels: type.channels, captions: type.captions });
    return null;
  } catch (error) {
    return error instanceof Error ? `${error.message}; ${(error as { remedy?: string }).remedy ?? ''}` : null;
  }
}
