import { memo } from 'react';

interface ChoicesProps {
  id: string;
  /** what is written, and what it is called where that is something else */
  values: readonly (readonly [string, string])[];
}

/** What a field offers. Hundreds of lines that are drawn again only when they say something else. */
export const Choices = memo(
  ({ id, values }: ChoicesProps) => (
    <datalist id={id}>
      {values.map(([value, label]) => (
        <option key={value} value={value}>
          {label}
        </option>
      ))}
    </datalist>
  ),
  (before, now) =>
    before.id === now.id &&
    before.values.length === now.values.length &&
    before.values.every(([value, label], i) => value === now.values[i]![0] && label === now.values[i]![1]),
);
