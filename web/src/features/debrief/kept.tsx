import type { Debrief } from '@rouse/core/contract';
import { type FormEvent, useState } from 'react';
import styled from 'styled-components';
import { v7 as uuidv7 } from 'uuid';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { minutes } from '../../ui/words.ts';
import { ApiRefusal, postJson } from '../../platform/api.ts';

const Bar = styled.footer`
  grid-area: foot;
  background: var(--rail);
  color: var(--rail-ink);
  display: flex;
  align-items: center;
  gap: 14px;
  padding: 4px 20px;
  min-height: 3.25rem;
  flex-wrap: wrap;
  form {
    display: flex;
    gap: 8px;
    flex: 1;
    flex-wrap: wrap;
  }
  input {
    flex: 1;
    min-width: 0;
    font: inherit;
    min-height: 2.5rem;
    border-radius: 8px;
    border: 1.5px solid var(--button-line);
    padding: 4px 10px;
    background: var(--sheet);
    color: var(--ink);
  }
  > button {
    margin-left: auto;
  }
  button {
    min-height: 2.5rem;
  }
  em {
    font-style: normal;
    font-size: 0.78125rem;
    opacity: 0.85;
  }
`;

/** Whether the record is whole, and a note to add to it. */
export function Kept({
  debrief,
  prevails,
  about_s,
  onNoted,
}: {
  debrief: Debrief;
  prevails: string;
  about_s: number | null;
  onNoted: () => void;
}) {
  const [writing, setWriting] = useState(false);
  const [text, setText] = useState('');
  const [refusal, setRefusal] = useState<string | null>(null);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (!text.trim()) return;
    try {
      await postJson(`/runs/${debrief.run.run}/entries`, {
        id: uuidv7(),
        seq: debrief.chain.entries + 1,
        payload: { kind: 'note', text: text.trim(), ...(about_s !== null && { about_s }) },
      });
      setText('');
      setWriting(false);
      setRefusal(null);
      onNoted();
    } catch (error) {
      if (!(error instanceof ApiRefusal)) throw error;
      setRefusal(`${error.message} ${error.remedy}`); // the text stays in its field
    }
  };
  if (writing) {
    return (
      <Bar>
        <form onSubmit={(event) => void submit(event)}>
          <input
            aria-label={about_s === null ? 'Note' : `Note about ${minutes(about_s)}`}
            placeholder={about_s === null ? 'about the whole run' : `about ${minutes(about_s)}`}
            autoFocus
            value={text}
            maxLength={2000}
            onChange={(e) => setText(e.target.value)}
            onKeyDown={(e) => e.key === 'Escape' && setWriting(false)}
          />
          <PrimaryButton type="submit">Keep it</PrimaryButton>
          <Button onPress={() => setWriting(false)}>Back</Button>
        </form>
        {refusal !== null && <span role="alert">{refusal}</span>}
      </Bar>
    );
  }
  const { entries, intact } = debrief.chain;
  return (
    <Bar>
      <span>Kept</span>
      <b data-chain={intact}>
        {intact
          ? `Record is whole, ${entries} entries, chain intact.`
          : `The chain of this record is broken: it was changed after it was written.`}
      </b>
      <em>{prevails}</em>
      <Button onPress={() => setWriting(true)}>
        {about_s === null ? 'Add a note' : `Add a note about ${minutes(about_s)}`}
      </Button>
    </Bar>
  );
}
