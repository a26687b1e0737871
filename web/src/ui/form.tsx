import type { SerializedError } from '@reduxjs/toolkit';
import { type FormEvent, type ReactNode, useState } from 'react';
import { Checkbox, FieldError, Form as AriaForm, Input, Label, TextField } from 'react-aria-components';
import styled from 'styled-components';
import { type Refused, troubleIn } from '../app/server-data.ts';
import { mono } from '../app/theme.ts';
import { Alert, inputLook } from './field-look.ts';

const Fields = styled(AriaForm)`
  display: flex;
  gap: 12px 14px;
  flex-wrap: wrap;
  align-items: start;
  > p {
    flex-basis: 100%;
  }
  /* beside the fields, below their labels */
  > button,
  > label {
    margin-top: 21px;
  }
`;

export const PASSWORD_HINT = 'at least 12 characters; a sentence is easy to keep in mind';

const Labelled = styled.div`
  display: grid;
  gap: 4px;
  min-width: 0;
  max-width: 100%;
  grid-template-columns: minmax(0, auto);
  flex: 0 1 auto;
  label {
    display: grid;
    grid-template-columns: minmax(0, auto);
    gap: 4px;
    font-size: 0.78125rem;
    font-weight: 600;
    color: var(--soft);
  }
  ${inputLook}
  input[data-invalid] {
    border: 2px solid var(--warning);
  }
  input[inputmode='decimal'],
  input[inputmode='numeric'] {
    ${mono}
  }
  [slot='description'],
  .react-aria-FieldError,
  small {
    font-size: 0.8125rem;
    max-width: 36ch;
  }
  .react-aria-FieldError {
    color: var(--warning);
  }
  small {
    color: var(--soft);
  }
`;

export interface FieldProps {
  name: string;
  label: string;
  type?: 'text' | 'password' | 'email';
  value?: string | number | null;
  required?: boolean;
  /** a number is typed */
  decimal?: boolean;
  digits?: boolean;
  maxLength?: number;
  /** in characters */
  width?: number;
  hint?: string;
  autoComplete?: string;
  autoFocus?: boolean;
}

/** One field with its name above it, and what is wrong with it below. */
export function Field({ name, label, hint, width = 20, value, ...rest }: FieldProps) {
  const {
    type = 'text',
    required = false,
    decimal = false,
    digits = false,
    maxLength,
    autoComplete = 'off',
    autoFocus = false,
  } = rest;
  return (
    <TextField
      name={name}
      type={type}
      isRequired={required}
      defaultValue={value === null || value === undefined ? '' : String(value)}
      autoComplete={autoComplete}
      // a page that asks for one thing begins there
      // oxlint-disable-next-line jsx-a11y/no-autofocus
      autoFocus={autoFocus}
      {...(maxLength !== undefined && { maxLength })}
      {...(decimal && { inputMode: 'decimal' as const })}
      {...(digits && { inputMode: 'numeric' as const })}
    >
      <Labelled>
        <Label>{label}</Label>
        <Input style={{ width: `calc(${width}ch + 24px)` }} />
        {hint !== undefined && <small>{hint}</small>}
        <FieldError />
      </Labelled>
    </TextField>
  );
}

/** One of a few. */
export function Choice({
  name,
  label,
  value,
  options,
  onChange,
}: {
  name: string;
  label: string;
  value?: string;
  options: readonly { value: string; label: string }[];
  onChange?: (value: string) => void;
}) {
  return (
    <Labelled>
      <label>
        {label}
        <select name={name} defaultValue={value} onChange={(e) => onChange?.(e.target.value)}>
          {options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </select>
      </label>
    </Labelled>
  );
}

const Ticked = styled(Checkbox)`
  display: inline-flex;
  gap: 8px;
  align-items: center;
  min-height: 3rem;
  font-size: 0.875rem;
  cursor: pointer;
  &::before {
    content: '';
    width: 20px;
    height: 20px;
    border: 1.5px solid var(--button-line);
    border-radius: 5px;
    display: grid;
    place-content: center;
    background: var(--sheet);
    font-weight: 700;
    font-size: 0.875rem;
    line-height: 1;
  }
  &[data-selected]::before {
    content: '✓';
    border-color: var(--now);
    color: var(--now);
  }
  &[data-focus-visible]::before {
    outline: 3px solid var(--now);
    outline-offset: 2px;
  }
`;

/** Yes or no, in words. */
export function Tick({
  name,
  value,
  label,
  on = false,
}: {
  name: string;
  value?: string;
  label: string;
  on?: boolean;
}) {
  return (
    <Ticked name={name} value={value ?? 'yes'} defaultSelected={on}>
      {label}
    </Ticked>
  );
}

/** What was typed into a form. */
export class Typed {
  private readonly data: FormData;

  constructor(data: FormData) {
    this.data = data;
  }

  text(name: string): string {
    const value = this.data.get(name);
    return typeof value === 'string' ? value.trim() : '';
  }

  /** as it was typed: blanks belong to a password */
  secret(name: string): string {
    const value = this.data.get(name);
    return typeof value === 'string' ? value : '';
  }

  /** null where nothing was typed; what is no number goes to the server as it is, which names it */
  number(name: string): number | null {
    const text = this.text(name).replace(',', '.');
    if (text === '') return null;
    const number = Number(text);
    return Number.isNaN(number) ? (text as unknown as number) : number;
  }

  /** null where nothing was typed */
  maybe(name: string): string | null {
    return this.text(name) || null;
  }

  ticked(name: string): string[] {
    return this.data.getAll(name).filter((v): v is string => typeof v === 'string');
  }
}

/**
 * Fields that are sent together. What the server refuses stands at the field that it names, and everything that was typed
 * stays.
 */
export function Form({
  label,
  error,
  onSubmit,
  children,
}: {
  label: string;
  error?: Refused | SerializedError | undefined;
  onSubmit: (typed: Typed, form: HTMLFormElement) => void | Promise<void>;
  children: ReactNode;
}) {
  // names of the fields that were sent: what is said of another one stands below them all
  const [names, setNames] = useState<readonly string[]>([]);
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const form = event.currentTarget;
    setNames([...form.elements].map((e) => e.getAttribute('name') ?? ''));
    void onSubmit(new Typed(new FormData(form)), form);
  };
  const path = error && 'path' in error ? error.path : undefined;
  const named = path !== undefined && names.includes(path) ? path : null;
  const words = error ? troubleIn(error) : null;
  return (
    <Fields
      aria-label={label}
      onSubmit={submit}
      {...(named !== null && words !== null && { validationErrors: { [named]: words } })}
    >
      {children}
      {named === null && words !== null && <Alert role="alert">{words}</Alert>}
    </Fields>
  );
}
