import { type FormEvent, useState } from 'react';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { write } from '../../run/write.ts';
import { Form } from './answer-form.ts';
import type { Asking } from './asking.ts';

/** Words, where the other answers are figures. */
const Ask = styled(Form)`
  input:not([type='checkbox']) {
    font: inherit;
  }
`;

/** The words for a fault or for a skipped item; what is typed stays until it is accepted. */
export function AskForm({ item, note, close }: NonNullable<Asking> & { close: () => void }) {
  const measured = useAppSelector((s) => s.run.followed?.state.measured[item.id]);
  // what the check found is what is wrong with it, in its own words
  const [text, setText] = useState(note === 'fault' && measured ? measured.words.slice(0, 500) : '');
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
