import { type ReactNode, useId, useState } from 'react';
import styled from 'styled-components';
import { mono } from '../app/theme.ts';
import { figureIn, readPlain, readTyped, type UnitKind, type Units } from './figures.ts';
import { useUnits } from './units.ts';

const Field = styled.div`
  border-top: 1px solid var(--hair);
  padding: 3px 0;
  > div {
    display: flex;
    align-items: center;
    gap: 8px;
  }
  label {
    flex: 1;
    font-size: 0.875rem;
    min-width: 0;
  }
  input {
    font: inherit;
    ${mono}
    font-size: 0.90625rem;
    font-weight: 600;
    text-align: right;
    width: 4.125rem;
    flex: none;
    min-height: 2.125rem;
    border: 1.5px solid transparent;
    border-bottom-color: var(--button-line);
    border-radius: 6px 6px 0 0;
    background: none;
    color: var(--ink);
    padding: 2px 6px;
  }
  input:hover,
  input:focus {
    background: var(--deep);
  }
  input[aria-invalid] {
    border-color: var(--warning);
    border-radius: 6px;
  }
  span {
    font-size: 0.78125rem;
    color: var(--soft);
    min-width: 26px;
    white-space: nowrap;
  }
  p {
    font-size: 0.78125rem;
    color: var(--warning);
    padding: 2px 0;
  }
`;

interface QuantityFieldProps {
  label: ReactNode;
  name: string;
  kind: UnitKind;
  /** kept figure, null when nothing is entered */
  value: number | null;
  onChange: (value: number | null) => void;
  /** what the kept figure can be */
  range: readonly [number, number];
  /** turns litres that are typed into kilograms */
  density_kgL?: number;
  /** figures that are often meant, by name */
  suggested?: readonly { label: string; value: number }[];
}

function textOf(value: number | null, kind: UnitKind, units: Units): string {
  return value === null ? '' : String(figureIn(value, kind, units)).replace('-', '−');
}

type Read = { value: number | null } | { wrong: string };

interface TypedFieldProps {
  label: ReactNode;
  unit: string;
  value: number | null;
  onChange: (value: number | null) => void;
  shown: string;
  read: (text: string) => Read;
  suggested?: readonly { label: string; shown: string }[];
}

/** A field that keeps what is typed in it. While that is wrong, the figure from before the typing stands. */
function TypedField({ label, unit, value, onChange, shown, read, suggested = [] }: TypedFieldProps) {
  const id = useId();
  const [draft, setDraft] = useState<{ text: string; wrong: string; before: number | null } | null>(null);
  const type = (text: string): void => {
    const before = draft ? draft.before : value;
    const typed = read(text);
    const wrong = 'wrong' in typed ? typed.wrong : '';
    setDraft({ text, wrong, before });
    onChange('wrong' in typed ? before : typed.value);
  };
  return (
    <Field>
      <div>
        <label htmlFor={id}>{label}</label>
        <input
          id={id}
          inputMode="text"
          autoComplete="off"
          placeholder="–"
          list={suggested.length > 0 ? `${id}-list` : undefined}
          value={draft?.text ?? shown}
          aria-invalid={draft?.wrong ? true : undefined}
          aria-describedby={draft?.wrong ? `${id}-wrong` : undefined}
          onChange={(e) => type(e.target.value)}
          onBlur={() => draft && !draft.wrong && setDraft(null)}
        />
        <span>{unit}</span>
        {suggested.length > 0 && (
          <datalist id={`${id}-list`}>
            {suggested.map((s) => (
              <option key={s.label} value={s.shown}>
                {s.label}
              </option>
            ))}
          </datalist>
        )}
      </div>
      {draft?.wrong && (
        <p id={`${id}-wrong`} role="alert">
          {draft.wrong} What was entered before is kept.
        </p>
      )}
    </Field>
  );
}

/**
 * A figure that can be typed in any unit of its kind. It is kept once, in one unit: changing what is shown changes
 * nothing that was entered, and a wrong entry stays in the field with what to do about it.
 */
export function QuantityField({
  label,
  name,
  kind,
  value,
  onChange,
  range,
  density_kgL,
  suggested = [],
}: QuantityFieldProps) {
  const { units, sign, show } = useUnits();
  const read = (text: string): Read => {
    const typed = readTyped(text, kind, units, density_kgL);
    if (!typed.ok) return { wrong: `${name} ${typed.words}.` };
    if (typed.value !== null && (typed.value < range[0] || typed.value > range[1]))
      return { wrong: `${name} is from ${show(range[0], kind)} to ${show(range[1], kind)}.` };
    return { value: typed.value };
  };
  return (
    <TypedField
      {...{ label, value, onChange, read }}
      unit={sign(kind)}
      shown={textOf(value, kind, units)}
      suggested={suggested.map((s) => ({ label: s.label, shown: textOf(s.value, kind, units) }))}
    />
  );
}

interface PlainFieldProps {
  label: ReactNode;
  name: string;
  unit: string;
  value: number | null;
  onChange: (value: number | null) => void;
  range: readonly [number, number];
}

/** As a quantity field, for figures with one unit only. */
export function PlainField({ label, name, unit, value, onChange, range }: PlainFieldProps) {
  const read = (text: string): Read => {
    const typed = readPlain(text, unit);
    const good = typed.ok && (typed.value === null || (typed.value >= range[0] && typed.value <= range[1]));
    return good ? { value: typed.value } : { wrong: `${name} is a number from ${range[0]} to ${range[1]} ${unit}.` };
  };
  return <TypedField {...{ label, unit, value, onChange, read }} shown={value === null ? '' : String(value)} />;
}
