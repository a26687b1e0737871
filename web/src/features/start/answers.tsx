import { type Item, stagesOf } from '@rouse/core/aircraft';
import { type Ask, askOf, rightAnswer, ruledAnswer, stagesDone } from '@rouse/core/procedure';
import { type FormEvent, type ReactNode, useState } from 'react';
import styled from 'styled-components';
import { Button, PrimaryButton } from '../../ui/button.tsx';
import { usePulse } from '../../platform/pulse.ts';
import { ring } from '../../run/frame-ring.ts';
import type { FollowedRun } from '../../run/run-slice.ts';
import { write } from '../../run/write.ts';
import { type AnswerProps, Form } from './answer-form.ts';
import { CheckAnswer } from './check-answer.tsx';
import { Hold } from './hold-answer.tsx';
import { ByEye, NumberAnswer } from './number-answer.tsx';
import { RotorWindAnswer } from './rotor-wind-answer.tsx';

const Steps = styled.ol`
  margin-top: 10px;
  li {
    display: flex;
    gap: 9px;
    padding: 7px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.9375rem;
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

/** The answer that is usual, or that the rule of the day gives, is the larger one. */
const UsualChoice = styled(PrimaryButton)`
  min-height: 4rem;
`;

const Points = styled.ul`
  margin-top: 10px;
  li {
    padding: 6px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.9375rem;
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
    font-size: 0.8125rem;
    color: var(--soft);
    margin-bottom: 4px;
  }
  label {
    display: flex;
    gap: 9px;
    align-items: center;
    min-height: 2.5rem;
    font-size: 0.875rem;
  }
  input {
    width: 20px;
    height: 20px;
    accent-color: var(--now);
  }
`;

/** What a person has to give beside a word, and what helps to give it. Null for an item that is seen or done. */
export function answerFor({ followed, item }: AnswerProps): ReactNode {
  const ask = askOf(item, followed);
  const props = { followed, item };
  switch (ask.kind) {
    case 'stage':
      return <Stages {...props} key={item.id} />;
    case 'number':
      return <NumberAnswer {...props} key={item.id} quantity={ask.quantity} />;
    case 'measured':
      return item.kind === 'measure' ? <CheckAnswer key={item.id} followed={followed} item={item} /> : null;
    case 'pair':
      return <Comparison {...props} key={item.id} between={ask.between} unit={ask.unit} />;
    case 'hold':
      return <Hold {...props} key={item.id} asked_s={ask.hold_s} />;
    case 'choice':
      return <Decision {...props} key={item.id} />;
    case 'wind':
      return <RotorWindAnswer {...props} key={item.id} />;
    default:
      return helpFor({ followed, item });
  }
}

function helpFor({ followed, item }: AnswerProps): ReactNode {
  switch (item.kind) {
    case 'brief':
      return (
        <Points>
          {item.points.map((p) => (
            <li key={p}>{p}</li>
          ))}
        </Points>
      );
    case 'check':
      return item.expect ? <ByEye key={item.id} followed={followed} item={item} /> : null;
    case 'count':
      return <CaptionTicks key={item.id} followed={followed} item={item} />;
    default:
      return null;
  }
}

/** Whether the answer has a button of its own, so that the card needs none for "seen". */
export function answersItself(item: Item, followed: FollowedRun): boolean {
  return OWN_BUTTON.has(askOf(item, followed).kind);
}

const OWN_BUTTON: ReadonlySet<Ask['kind']> = new Set(['number', 'pair', 'hold', 'choice', 'wind']);

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

interface ComparisonProps extends AnswerProps {
  between: readonly [string, string];
  unit: string | null;
}

function Comparison({ followed, item, between, unit }: ComparisonProps) {
  const [read, setRead] = useState<[string, string]>(() => shownPair(followed, item));
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    await write({ kind: 'item-done', item: item.id, how: 'declared', value: null, words: '', read });
  };
  return (
    <Form onSubmit={(event) => void submit(event)}>
      {between.map((name, i) => (
        <label key={name}>
          {unit === null ? name : `${name}, ${unit}`}
          <input
            autoComplete="off"
            inputMode={unit === null ? undefined : 'decimal'}
            autoFocus={i === 0}
            maxLength={40}
            value={read[i]}
            onFocus={(e) => e.target.select()}
            onChange={(e) => setRead(i === 0 ? [e.target.value, read[1]] : [read[0], e.target.value])}
          />
        </label>
      ))}
      <PrimaryButton type="submit">Compare</PrimaryButton>
    </Form>
  );
}

/** What the two places show in a simulated cockpit, which has no glass to look at. */
function shownPair(followed: FollowedRun, item: Item): [string, string] {
  if (followed.detail.source !== 'stand-in') return ['', ''];
  const right = rightAnswer(item, followed);
  return (right.kind === 'item-done' && right.read) || ['', ''];
}

function Decision({ followed, item }: AnswerProps) {
  if (item.kind !== 'decide') return null;
  const ruled = ruledAnswer(item, followed.state.brief);
  const right = rightAnswer(item, followed);
  const usual = right.kind === 'decided' ? right.alternative : null;
  const reason = (label: string): string => (ruled ? `${label}; ${ruled.words}` : label);
  return (
    <Form as="div" data-decide>
      {ruled && (
        <small data-ruled={ruled.alternative}>
          By the rule: {item.alternatives.find((a) => a.id === ruled.alternative)?.label}. {ruled.words}.
        </small>
      )}
      {item.alternatives.map((a) => {
        const Choice = a.id === usual ? UsualChoice : Button;
        return (
          <Choice
            key={a.id}
            autoFocus={a.id === usual}
            onPress={() => void write({ kind: 'decided', item: item.id, alternative: a.id, reason: reason(a.label) })}
          >
            {a.label}
          </Choice>
        );
      })}
    </Form>
  );
}

/** Captions that are lit, ticked by eye where nothing senses them. */
function CaptionTicks({ followed: { type, detail }, item }: AnswerProps) {
  const now_ms = usePulse(500);
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
