import { removeAt, setMember } from '@rouse/core/authoring';
import { memo, useId } from 'react';
import styled from 'styled-components';
import { SlimButton } from '../../../ui/button.tsx';
import { Choices } from './choices.tsx';
import { ConditionField } from './condition-field.tsx';
import { ItemOrder, type ItemProps } from './item-order.tsx';
import { ItemOthers } from './item-others.tsx';
import { type ShownItem, textOf } from './shown.ts';
import { useSteady } from './use-steady.ts';

const Form = styled.div`
  border: 2px solid var(--now);
  border-radius: 12px;
  background: var(--now-paper);
  margin: 4px 12px 8px;
  padding: 12px;
  display: grid;
  grid-template-columns: repeat(auto-fit, minmax(min(100%, 12.5rem), 1fr));
  gap: 10px 12px;
  label,
  fieldset {
    display: grid;
    gap: 3px;
    font-size: 0.78125rem;
    color: var(--soft);
    font-weight: 600;
    border: 0;
    padding: 0;
    margin: 0;
    min-width: 0;
    align-content: start;
  }
  input,
  textarea,
  select {
    font: inherit;
    font-weight: 400;
    font-size: 0.875rem;
    color: var(--ink);
    background: var(--sheet);
    border: 1px solid var(--button-line);
    border-radius: 8px;
    padding: 7px 9px;
    min-height: 2.375rem;
    min-width: 0;
  }
  textarea {
    resize: vertical;
    min-height: 3.75rem;
  }
  .others {
    grid-column: 1 / -1;
  }
  .wide {
    grid-column: 1 / -1;
    display: flex;
    gap: 8px;
    align-items: center;
    flex-wrap: wrap;
    font-size: 0.8125rem;
    color: var(--soft);
  }
`;

interface FormProps extends ItemProps {
  shown: ShownItem;
  /** up in the list by -1, down by 1 */
  move: (by: number) => void;
  remove: () => void;
}

const SEVERITIES = ['no-go', 'caution', 'note'] as const;

/** One item of a leg, field by field. What is changed is written into its file, and nothing else of it. */
export function ItemForm({ file, row, shown, desk, locked, move, remove }: FormProps) {
  const zones = useId();
  const acts = { move: useSteady(move), remove: useSteady(remove) };
  const text = desk.folder[file] ?? '';
  const set = (name: string, value: string): void =>
    desk.change(file, value === '' ? removeAt(text, [...row.path, name]) : setMember(text, [...row.path, name], value));
  const setLine = (challenge: string, response: string): void => set('line', `${challenge} — ${response}`);
  const setSeverity = (to: string, words: string): void => {
    const without = row.severity && row.severity !== to ? removeAt(text, [...row.path, row.severity]) : text;
    desk.change(file, setMember(without, [...row.path, to], words));
  };
  const condition = row.kind === 'wait' || 'until' in row.fields ? 'until' : 'expect';
  return (
    <Form data-form={shown.id}>
      <label>
        Item
        <input readOnly={locked} value={shown.challenge} onChange={(e) => setLine(e.target.value, shown.response)} />
      </label>
      <label>
        Response
        <input readOnly={locked} value={shown.response} onChange={(e) => setLine(shown.challenge, e.target.value)} />
      </label>
      <label>
        If it fails
        <select disabled={locked} value={shown.failure} onChange={(e) => setSeverity(e.target.value, shown.ifSkipped)}>
          {SEVERITIES.map((s) => (
            <option key={s}>{s}</option>
          ))}
        </select>
      </label>
      <label>
        Zone
        <input list={zones} readOnly={locked} value={shown.zone} onChange={(e) => set('zone', e.target.value)} />
        <Choices id={zones} values={[...new Set(desk.compiled?.type?.items.map((i) => i.zone))].map((z) => [z, z])} />
      </label>
      <label>
        Who
        <select disabled={locked} value={shown.by} onChange={(e) => set('by', e.target.value)}>
          <option>pilot</option>
          <option>second-crew</option>
        </select>
      </label>
      <ConditionField
        label={condition === 'until' ? 'Until' : 'Good when'}
        value={textOf(row.fields[condition])}
        type={desk.compiled?.type ?? null}
        locked={locked}
        onChange={(value) => set(condition, value)}
      />
      <label>
        Why, two sentences at most
        <textarea readOnly={locked} value={shown.why} onChange={(e) => set('why', e.target.value)} />
      </label>
      <label>
        If it is skipped
        <textarea
          readOnly={locked}
          value={shown.ifSkipped}
          onChange={(e) => setSeverity(shown.failure || 'caution', e.target.value)}
        />
      </label>
      <ItemOrder file={file} row={row} desk={desk} locked={locked} />
      <ItemOthers file={file} row={row} desk={desk} locked={locked} />
      <Foot
        about={row.use === null ? `${shown.kind} ${shown.id}` : `Standard item ${row.use}, changed where something stands here`} // oxfmt-ignore
        count={row.items.length}
        locked={locked}
        {...acts}
      />
    </Form>
  );
}

interface FootProps extends Pick<FormProps, 'locked' | 'move' | 'remove'> {
  about: string;
  /** of the items that it stands for */
  count: number;
}

/** What it stands for, and what can be done with the whole of it. */
const Foot = memo(({ about, count, locked, move, remove }: FootProps) => (
  <div className="wide">
    <span>
      {about}
      {count > 1 && ` · stands for ${count} items`}
    </span>
    <SlimButton isDisabled={locked} onPress={() => move(-1)}>
      Move up
    </SlimButton>
    <SlimButton isDisabled={locked} onPress={() => move(1)}>
      Move down
    </SlimButton>
    <SlimButton isDisabled={locked} onPress={() => remove()}>
      Remove
    </SlimButton>
  </div>
));
