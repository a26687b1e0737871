import { type FormEvent, useState } from 'react';
import { troubleIn, useAddAircraftMutation, usePadsQuery } from '../../app/server-data.ts';
import { PrimaryButton } from '../../ui/button.tsx';
import { SmallForm } from './small-form.ts';

/** One more aircraft of a type: its registration, and where it stands. */
export function NewTail({ type, version, done }: { type: string; version: number; done: () => void }) {
  const { data: pads } = usePadsQuery();
  const [tail, setTail] = useState('');
  const [pad, setPad] = useState('');
  const [add, { error, isLoading }] = useAddAircraftMutation();
  const stands = pad || pads?.[0]?.pad;
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (stands === undefined) return;
    const added = await add({ tail: tail.trim().toUpperCase(), type, version, pad: stands })
      .unwrap()
      .catch(() => null);
    if (added) done();
  };
  return (
    <SmallForm onSubmit={(e) => void submit(e)} aria-label="Add a tail">
      <label>
        Registration
        <input value={tail} maxLength={10} required autoComplete="off" onChange={(e) => setTail(e.target.value)} />
      </label>
      <label>
        Stands on
        <select value={stands} onChange={(e) => setPad(e.target.value)}>
          {pads?.map((p) => (
            <option key={p.pad} value={p.pad}>
              {p.pad}
              {p.tails.length === 0 ? '' : `, beside ${p.tails.join(', ')}`}
            </option>
          ))}
        </select>
      </label>
      <PrimaryButton type="submit" isDisabled={isLoading}>
        Add
      </PrimaryButton>
      {error && <p role="alert">{troubleIn(error)}</p>}
    </SmallForm>
  );
}
