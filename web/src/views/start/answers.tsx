import { holdSeconds, type Item, stagesOf } from '@rouse/core/aircraft';
import { expectedFigure, stagesDone } from '@rouse/core/procedure';
import { type FormEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { Button, Key, PrimaryButton } from '../../parts/button.tsx';
import { usePulse } from '../../platform/pulse.ts';
import { ring } from '../../run/frame-ring.ts';
import type { FollowedRun } from '../../run/run-slice.ts';
import { useWrite } from '../../run/write.ts';

const Form = styled.form`
  display: grid;
  gap: 8px;
  margin-top: 11px;
  label {
    font-weight: 650;
    font-size: 14px;
  }
  input:not([type='checkbox']) {
    font: inherit;
    ${mono}
    font-size: 20px;
    color: var(--ink);
    background: var(--sheet);
    border: 1.5px solid var(--button-line);
    border-radius: 8px;
    min-height: 48px;
    padding: 6px 10px;
    width: 100%;
  }
  > div {
    display: flex;
    gap: 8px;
    align-items: end;
  }
  small {
    color: var(--soft);
    font-size: 13px;
  }
`;

const Steps = styled.ol`
  margin-top: 10px;
  li {
    display: flex;
    gap: 9px;
    padding: 7px 0;
    border-top: 1px solid var(--hair);
    font-size: 15px;
  }
  li[data-status='done'] {
    color: var(--soft);
  }
  li[data-status='now'] {
    color: var(--now);
    font-weight: 650;
  }
  li::before {
    content: '○';
  }
  li[data-status='done']::before {
    content: '✓';
  }
  li[data-status='now']::before {
    content: '→';
  }
`;

const Points = styled.ul`
  margin-top: 10px;
  li {
    padding: 6px 0;
    border-top: 1px solid var(--hair);
    font-size: 15px;
  }
`;

const Ticks = styled.fieldset`
  border: 0;
  padding: 0;
  margin: 10px 0 0;
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 0 12px;
  legend {
    font-size: 13px;
    color: var(--soft);
    margin-bottom: 4px;
  }
  label {
    display: flex;
    gap: 9px;
    align-items: center;
    min-height: 40px;
    font-size: 14px;
  }
  input {
    width: 20px;
    height: 20px;
    accent-color: var(--now);
  }
`;

const HoldButton = styled.button`
  position: relative;
  overflow: hidden;
  width: 100%;
  min-height: 64px;
  margin-top: 11px;
  border-radius: 11px;
  border: 2px solid var(--now);
  background: var(--sheet);
  color: var(--ink);
  font-weight: 700;
  font-size: 16px;
  touch-action: none;
  i {
    position: absolute;
    inset: 0;
    background: var(--now);
    opacity: 0.22;
    transform-origin: left;
  }
`;

interface AnswerProps {
  followed: FollowedRun;
  item: Item;
}

/** What a person has to give beside a word: stages, numbers, ticks. Null for an item that is seen or done. */
export function answerFor({ followed, item }: AnswerProps): ReactNode {
  const key = item.id;
  if (stagesOf(item).length > 0 && (item.kind === 'test' || followed.detail.source === 'by-hand'))
    return <Stages key={key} followed={followed} item={item} />;
  switch (item.kind) {
    case 'enter':
      return <NumberAnswer key={key} followed={followed} item={item} quantity={item.enters} />;
    case 'measure':
      return <NumberAnswer key={key} followed={followed} item={item} quantity={item.measures} />;
    case 'compare':
      return <Comparison key={key} item={item} />;
    case 'hold':
      return <Hold key={key} followed={followed} item={item} />;
    case 'decide':
      return <Decision key={key} item={item} />;
    case 'brief':
      return (
        <Points>
          {item.points.map((p) => (
            <li key={p}>{p}</li>
          ))}
        </Points>
      );
    case 'check':
      return item.reads ? (
        <NumberAnswer key={key} followed={followed} item={item} quantity={item.reads} />
      ) : item.expect ? (
        <ByEye key={key} followed={followed} item={item} />
      ) : null;
    case 'count':
      return <CaptionTicks key={key} followed={followed} item={item} />;
    default:
      return null;
  }
}

/** Whether the answer has a button of its own, so that the card needs none for "seen". */
export function answersItself(item: Item): boolean {
  return item.kind === 'hold' || item.kind === 'decide' || item.kind === 'compare' || isNumber(item);
}

const isNumber = (item: Item): boolean =>
  item.kind === 'enter' || item.kind === 'measure' || (item.kind === 'check' && item.reads !== undefined);

function Stages({ followed: { state }, item }: AnswerProps) {
  const done = stagesDone(state, item);
  return (
    <Steps>
      {stagesOf(item).map((stage, i) => (
        <li
          key={stage.do}
          data-status={i < done ? 'done' : i === done ? 'now' : 'ahead'}
          aria-current={i === done ? 'step' : undefined}
        >
          {stage.do}
          {stage.within_s !== undefined && ` · within ${stage.within_s} s`}
        </li>
      ))}
    </Steps>
  );
}

interface NumberAnswerProps extends AnswerProps {
  quantity: {
    label: string;
    unit: string;
    against?: { figure: Parameters<typeof expectedFigure>[1]; within: number } | undefined;
    good?: readonly [number, number];
  };
}

function NumberAnswer({ followed: { state }, item, quantity }: NumberAnswerProps) {
  const write = useWrite();
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState('');
  const expected = quantity.against ? expectedFigure(state.brief, quantity.against.figure) : null;
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const value = Number(text.trim().replace(',', '.').replace('−', '-'));
    if (text.trim() === '' || !Number.isFinite(value)) {
      setWrong(
        `${quantity.label} is a number in ${quantity.unit}, such as ${expected === null ? '12' : Math.round(expected)}.`,
      );
      return;
    }
    setWrong('');
    await write({ kind: 'item-done', item: item.id, how: 'declared', value, words: '' });
  };
  return (
    <Form onSubmit={(event) => void submit(event)}>
      <label htmlFor="figure">
        {quantity.label}, {quantity.unit}
      </label>
      <div>
        <input
          id="figure"
          inputMode="decimal"
          autoComplete="off"
          autoFocus
          value={text}
          aria-invalid={wrong !== '' || undefined}
          aria-describedby="figure-help"
          onChange={(e) => setText(e.target.value)}
        />
        <PrimaryButton type="submit">Enter</PrimaryButton>
      </div>
      <small id="figure-help" role={wrong ? 'alert' : undefined}>
        {wrong ||
          (expected !== null
            ? `The brief says ${Math.round(expected)} ${quantity.unit}, within ${quantity.against!.within}.`
            : quantity.good
              ? `Good from ${quantity.good[0]} to ${quantity.good[1]} ${quantity.unit}.`
              : 'Nothing to compare it with.')}
      </small>
    </Form>
  );
}

/** A reading typed in place of a sensor; without one the item is taken at the pilot's word. */
function ByEye({ followed: { type, detail }, item }: AnswerProps) {
  const now_ms = usePulse(500);
  const write = useWrite();
  const [text, setText] = useState('');
  if (detail.source !== 'by-hand' && ring.fresh(now_ms)) return null;
  const channel =
    item.kind === 'check' && item.expect && 'channel' in item.expect
      ? type.channels.find((c) => c.id === (item.expect as { channel: string }).channel)
      : undefined;
  if (!channel || channel.states) return null;
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const value = Number(text.trim().replace(',', '.').replace('−', '-'));
    if (text.trim() === '' || !Number.isFinite(value)) return;
    await write({ kind: 'item-done', item: item.id, how: 'declared', value, words: '' });
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
          onChange={(e) => setText(e.target.value)}
        />
        <Button type="submit">Enter</Button>
      </div>
    </Form>
  );
}

function Comparison({ item }: { item: Item }) {
  const write = useWrite();
  const [read, setRead] = useState<[string, string]>(['', '']);
  if (item.kind !== 'compare') return null;
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    await write({ kind: 'item-done', item: item.id, how: 'declared', value: null, words: '', read });
  };
  return (
    <Form onSubmit={(event) => void submit(event)}>
      {item.between.map((name, i) => (
        <label key={name}>
          {name}
          <input
            autoComplete="off"
            autoFocus={i === 0}
            maxLength={40}
            value={read[i]}
            onChange={(e) => setRead(i === 0 ? [e.target.value, read[1]] : [read[0], e.target.value])}
          />
        </label>
      ))}
      <PrimaryButton type="submit">Compare</PrimaryButton>
    </Form>
  );
}

function Decision({ item }: { item: Item }) {
  const write = useWrite();
  if (item.kind !== 'decide') return null;
  return (
    <Form as="div" data-decide>
      {item.alternatives.map((a, i) => (
        <Button
          key={a.id}
          autoFocus={i === 0}
          onPress={() => void write({ kind: 'decided', item: item.id, alternative: a.id, reason: a.label })}
        >
          {a.label}
        </Button>
      ))}
    </Form>
  );
}

/** Pressed and held: with Space, a finger or the pointer. Letting go too early counts nothing. */
function Hold({ followed: { state }, item }: AnswerProps) {
  const write = useWrite();
  const from = useRef<number | null>(null);
  const [held_s, setHeld_s] = useState(0);
  const asked_s = item.kind === 'hold' ? holdSeconds(item, state.brief?.oat_C ?? null) : 1;
  const end = (): void => {
    if (from.current === null) return;
    const value = (performance.now() - from.current) / 1000;
    from.current = null;
    setHeld_s(0);
    void write({ kind: 'item-done', item: item.id, how: 'declared', value: Math.round(value * 100) / 100, words: '' });
  };
  useEffect(() => {
    let frame = 0;
    const tick = (): void => {
      if (from.current !== null) setHeld_s((performance.now() - from.current) / 1000);
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    const press = (event: KeyboardEvent): void => {
      if (event.key === ' ' && !event.repeat && !(event.target as HTMLElement).matches('input, textarea')) {
        event.preventDefault();
        from.current = performance.now();
      }
    };
    const release = (event: KeyboardEvent): void => {
      if (event.key === ' ') end();
    };
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', release);
    return () => {
      cancelAnimationFrame(frame);
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', release);
    };
  });
  return (
    <HoldButton
      type="button"
      tabIndex={-1}
      onPointerDown={() => (from.current = performance.now())}
      onPointerUp={end}
      onPointerCancel={() => (from.current = null)}
    >
      <i style={{ transform: `scaleX(${Math.min(1, held_s / asked_s)})` }} />
      {held_s > 0 ? `${held_s.toFixed(1)} of ${asked_s.toFixed(1)} s` : `Hold for ${asked_s.toFixed(1)} s`}{' '}
      <Key>Space</Key>
    </HoldButton>
  );
}

/** Captions that are lit, ticked by eye where nothing senses them. */
function CaptionTicks({ followed: { type, detail }, item }: AnswerProps) {
  const now_ms = usePulse(500);
  const write = useWrite();
  const [lit, setLit] = useState<ReadonlySet<string>>(new Set());
  if (item.kind !== 'count' || (detail.source !== 'by-hand' && ring.fresh(now_ms))) return null;
  const mask = type.captions.list.reduce((sum, c) => sum + (lit.has(c.id) ? 2 ** c.bit : 0), 0);
  return (
    <>
      <Ticks>
        <legend>Tick what is lit</legend>
        {type.captions.list.map((c) => (
          <label key={c.id}>
            <input
              type="checkbox"
              checked={lit.has(c.id)}
              onChange={(e) => {
                const next = new Set(lit);
                if (e.target.checked) next.add(c.id);
                else next.delete(c.id);
                setLit(next);
              }}
            />
            {c.label}
          </label>
        ))}
      </Ticks>
      {lit.size > 0 && (
        <Button
          onPress={() => void write({ kind: 'item-done', item: item.id, how: 'declared', value: mask, words: '' })}
        >
          Compare with the list
        </Button>
      )}
    </>
  );
}
