import { useState } from 'react';
import styled from 'styled-components';
import { useDisputeMarkMutation } from '../../app/drill-data.ts';
import { troubleIn } from '../../app/server-data.ts';
import { SlimButton } from '../../ui/button.tsx';
import { Alert, inputLook } from '../../ui/field-look.ts';
import { Aid } from '../../ui/heading.ts';

const Said = styled.form`
  display: grid;
  gap: 6px;
  ${inputLook}
`;

/** A learner says something against one mark. The mark stays; what is said stands in the training record. */
export function DisputeMark({ drill, mark, t_s }: { drill: string; mark: string; t_s: number }) {
  const [note, setNote] = useState<string | null>(null);
  const [dispute, { isSuccess, error }] = useDisputeMarkMutation();
  if (isSuccess) return <Aid data-disputed>Kept in your record: {note}</Aid>;
  if (note === null) return <SlimButton onPress={() => setNote('')}>I do not agree</SlimButton>;
  return (
    <Said
      aria-label={`Against: ${mark}`}
      onSubmit={(e) => {
        e.preventDefault();
        if (note.trim() !== '') void dispute({ drill, dispute: { mark, t_s, note: note.trim() } });
      }}
    >
      <input
        aria-label="What speaks against it"
        autoFocus
        value={note}
        maxLength={500}
        onChange={(e) => setNote(e.target.value)}
      />
      <SlimButton type="submit">Keep it</SlimButton>
      {error && <Alert role="alert">{troubleIn(error)}</Alert>}
    </Said>
  );
}
