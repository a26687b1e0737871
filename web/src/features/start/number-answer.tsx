import { expectedFigure, type Quantity, rightAnswer } from '@rouse/core/procedure';
import { type FormEvent, useState } from 'react';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { kindOf, readPlain, readTyped } from '../../ui/figures.ts';
import { useUnits } from '../../ui/units.ts';
import { usePulse } from '../../platform/pulse.ts';
import { ring } from '../../run/frame-ring.ts';
import { write } from '../../run/write.ts';
import { type AnswerProps, Form } from './answer-form.ts';
import { canMove, usePilot } from './pilot.ts';

interface NumberAnswerProps extends AnswerProps {
  quantity: Quantity & { good?: readonly [number, number] };
}

/** A figure that was read, typed in any unit of its kind; it is kept in the type's own. */
export function NumberAnswer({ followed, item, quantity }: NumberAnswerProps) {
  const { type, state } = followed;
  const pilot = usePilot();
  const { units, show, sign } = useUnits();
  const expected = quantity.against ? expectedFigure(state.brief, quantity.against.figure) : null;
  const kind = kindOf(quantity.unit);
  const unit = kind ? sign(kind) : quantity.unit;
  const say = (value: number): string => (kind ? show(value, kind) : `${value} ${unit}`);
  // a simulated cockpit has no gauge to look at: it shows what it would read
  const [text, setText] = useState(() => {
    const right = followed.detail.source === 'stand-in' ? rightAnswer(item, followed) : null;
    return right?.kind === 'item-done' && right.value !== null ? say(Math.round(right.value)).replaceAll(',', '') : '';
  });
  const [wrong, setWrong] = useState('');
  const density_kgL = quantity.against?.figure === 'fuel' ? type.loading.fuel_density_kgL : undefined;
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const typed = kind ? readTyped(text, kind, units, density_kgL) : readPlain(text, unit);
    if (!typed.ok || typed.value === null) {
      const words = typed.ok ? `is a number in ${unit}` : typed.words;
      setWrong(`${quantity.label} ${words}, such as ${expected === null ? '12' : say(Math.round(expected))}.`);
      return;
    }
    setWrong('');
    if (canMove(followed)) await pilot.moveStandIn();
    await write({ kind: 'item-done', item: item.id, how: 'declared', value: typed.value, words: '' });
  };
  return (
    <Form onSubmit={(event) => void submit(event)}>
      <label htmlFor="figure">
        {quantity.label}, {unit}
      </label>
      <div>
        <input
          id="figure"
          inputMode="decimal"
          autoComplete="off"
          autoFocus
          value={text}
          onFocus={(e) => e.target.select()}
          aria-invalid={wrong !== '' || undefined}
          aria-describedby="figure-help"
          onChange={(e) => setText(e.target.value)}
        />
        <PrimaryButton type="submit">Enter</PrimaryButton>
      </div>
      <small id="figure-help" role={wrong ? 'alert' : undefined}>
        {wrong ||
          (expected !== null
            ? `The brief says ${say(Math.round(expected))}, within ${quantity.against!.within} ${quantity.unit}.`
            : quantity.good
              ? `Good from ${say(quantity.good[0])} to ${say(quantity.good[1])}.`
              : 'Nothing to compare it with.')}
      </small>
    </Form>
  );
}

/** A reading typed in place of a sensor; without one the item is taken at the pilot's word. */
export function ByEye({ followed: { type, detail }, item }: AnswerProps) {
  const now_ms = usePulse(500);
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState('');
  if (detail.source !== 'by-hand' && ring.fresh(now_ms)) return null;
  const channel =
    item.kind === 'check' && item.expect && 'channel' in item.expect
      ? type.channels.find((c) => c.id === (item.expect as { channel: string }).channel)
      : undefined;
  // a switch has no unit: it is seen, not read
  if (!channel || channel.states || channel.unit === '') return null;
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const typed = readPlain(text, channel.unit);
    if (!typed.ok || typed.value === null) {
      setWrong(`${channel.label} ${typed.ok ? `is a number in ${channel.unit}` : typed.words}.`);
      return;
    }
    setWrong('');
    await write({ kind: 'item-done', item: item.id, how: 'declared', value: typed.value, words: '' });
  };
  return (
    <Form onSubmit={(event) => void submit(event)}>
      <label htmlFor="by-eye">
        Read {channel.label.toLowerCase()}, {channel.unit}
      </label>
      <div>
        <input
          id="by-eye"
          inputMode="decimal"
          autoComplete="off"
          value={text}
          aria-invalid={wrong !== '' || undefined}
          aria-describedby="by-eye-wrong"
          onChange={(e) => setText(e.target.value)}
        />
        <Button type="submit">Enter</Button>
      </div>
      {wrong && (
        <small id="by-eye-wrong" role="alert">
          {wrong}
        </small>
      )}
    </Form>
  );
}
