import { briefedWind, rotorWindNow, windPhaseOf, type WindNow } from '@rouse/core/procedure';
import { type FormEvent, useState } from 'react';
import styled from 'styled-components';
import { PrimaryButton } from '../../ui/button.tsx';
import { readPlain } from '../../ui/figures.ts';
import { write } from '../../run/write.ts';
import { type AnswerProps, Form } from './answer-form.ts';

const Three = styled.div`
  display: grid !important;
  grid-template-columns: 1fr 1fr 1fr;
  label {
    font-size: 0.8125rem;
  }
`;

const FIELDS = [
  ['direction_deg', 'From, ° true', 0, 360],
  ['speed_kt', 'Wind, kt', 0, 150],
  ['gust_kt', 'Gust, kt', 0, 150],
] as const;

/** The wind of this minute against the limits of the quadrant it comes from; it begins with what the brief had. */
export function RotorWindAnswer({ followed: { type, state }, item }: AnswerProps) {
  const before = briefedWind(state.brief);
  const [text, setText] = useState<Record<string, string>>(() =>
    Object.fromEntries(FIELDS.map(([id]) => [id, before?.[id] == null ? '' : String(before[id])])),
  );
  const [wrong, setWrong] = useState('');
  const entered = read(text);
  const judged =
    typeof entered === 'string' ? null : rotorWindNow(type, state.brief, entered, windPhaseOf(item) ?? 'start');
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (typeof entered === 'string') return setWrong(entered);
    setWrong('');
    await write({ kind: 'item-done', item: item.id, how: 'declared', value: null, words: '', wind: entered });
  };
  return (
    <Form onSubmit={(event) => void submit(event)}>
      <Three>
        {FIELDS.map(([id, label]) => (
          <label key={id}>
            {label}
            <input
              inputMode="decimal"
              autoComplete="off"
              autoFocus={id === 'direction_deg'}
              value={text[id]}
              aria-describedby="wind-help"
              onChange={(e) => setText({ ...text, [id]: e.target.value })}
            />
          </label>
        ))}
      </Three>
      <small id="wind-help" role={wrong ? 'alert' : undefined} data-verdict={judged?.verdict}>
        {wrong || (judged ? `${VERDICTS[judged.verdict]}: ${judged.words}` : 'No direction is judged as from any side')}
      </small>
      <PrimaryButton type="submit">This wind</PrimaryButton>
    </Form>
  );
}

const VERDICTS = { WITHIN: 'Within', CAUTION: 'Close', EXCEEDS: 'Too much', UNKNOWN: 'Unknown' } as const;

/** @returns the wind, or what is wrong with it */
function read(text: Record<string, string>): WindNow | string {
  const out: Record<string, number | null> = {};
  for (const [id, label, low, high] of FIELDS) {
    const typed = readPlain(text[id] ?? '', '');
    if (!typed.ok) return `${label} ${typed.words}`;
    if (typed.value !== null && (typed.value < low || typed.value > high)) return `${label}: ${low} to ${high}`;
    out[id] = typed.value;
  }
  if (out['speed_kt'] == null) return 'Wind, kt is needed: 0 when it is calm';
  return out as unknown as WindNow;
}
