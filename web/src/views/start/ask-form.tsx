import { type FormEvent, useState } from 'react';
import styled from 'styled-components';
import { Button, PrimaryButton } from '../../parts/button.tsx';
import { useWrite } from '../../run/write.ts';
import type { Asking } from './asking.ts';

const Ask = styled.form`
  display: grid;
  gap: 8px;
  margin-top: 11px;
  label {
    font-weight: 650;
    font-size: 14px;
  }
  input {
    font: inherit;
    color: var(--ink);
    background: var(--sheet);
    border: 1.5px solid var(--button-line);
    border-radius: 8px;
    min-height: 48px;
    padding: 8px 10px;
    width: 100%;
  }
  div {
    display: flex;
    gap: 8px;
  }
`;

/** The words for a fault or for a skipped item; what is typed stays until it is accepted. */
export function AskForm({ item, note, close }: NonNullable<Asking> & { close: () => void }) {
  const write = useWrite();
  const [text, setText] = useState('');
  const fault = note === 'fault';
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const words = text.trim();
    if (!words) return;
    const accepted = await write(
      fault
        ? { kind: 'item-fault', item: item.id, note: words }
        : { kind: 'item-skipped', item: item.id, reason: words },
    );
    if (accepted) close();
  };
  return (
    <Ask onSubmit={(event) => void submit(event)}>
      <label htmlFor="ask">
        {fault
          ? `What is wrong with ${item.challenge.toLowerCase()}?`
          : `Why is ${item.challenge.toLowerCase()} skipped?`}
      </label>
      <input
        id="ask"
        autoFocus
        value={text}
        maxLength={500}
        required
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => e.key === 'Escape' && close()}
      />
      <div>
        <PrimaryButton type="submit">{fault ? 'Record the fault' : 'Skip it'}</PrimaryButton>
        <Button onPress={close}>Back</Button>
      </div>
    </Ask>
  );
}
