import { useEffect, useRef, useState } from 'react';
import styled from 'styled-components';
import { Key } from '../../ui/button.tsx';
import { useFrameLoop } from '../../platform/frame-loop.ts';
import { write } from '../../run/write.ts';
import type { AnswerProps } from './answer-form.ts';
import { canMove, usePilot } from './pilot.ts';

const HoldButton = styled.button`
  position: relative;
  overflow: hidden;
  width: 100%;
  min-height: 4rem;
  margin-top: 11px;
  border-radius: 11px;
  border: 2px solid var(--now);
  background: var(--sheet);
  color: var(--ink);
  font-weight: 700;
  font-size: 1rem;
  touch-action: none;
  i {
    position: absolute;
    inset: 0;
    background: var(--now);
    opacity: 0.22;
    transform-origin: left;
  }
`;

/** Pressed and held: with Space, a finger or the pointer. Letting go too early counts nothing. */
export function Hold({ followed, item, asked_s }: AnswerProps & { asked_s: number }) {
  const from = useRef<number | null>(null);
  const [held_s, setHeld_s] = useState(0);
  const pilot = usePilot();
  // on a simulated aircraft the hand that holds the button holds the switch
  const begin = (): void => {
    from.current = performance.now();
    if (canMove(followed)) void pilot.moveStandIn();
  };
  const end = (): void => {
    if (from.current === null) return;
    const value = (performance.now() - from.current) / 1000;
    from.current = null;
    setHeld_s(0);
    void write({ kind: 'item-done', item: item.id, how: 'declared', value: Math.round(value * 100) / 100, words: '' });
  };
  useFrameLoop(() => {
    if (from.current !== null) setHeld_s((performance.now() - from.current) / 1000);
  });
  useEffect(() => {
    const press = (event: KeyboardEvent): void => {
      if (event.key === ' ' && !event.repeat && !(event.target as HTMLElement).matches('input, textarea')) {
        event.preventDefault();
        begin();
      }
    };
    const release = (event: KeyboardEvent): void => {
      if (event.key === ' ') end();
    };
    window.addEventListener('keydown', press);
    window.addEventListener('keyup', release);
    return () => {
      window.removeEventListener('keydown', press);
      window.removeEventListener('keyup', release);
    };
  });
  return (
    <HoldButton
      type="button"
      tabIndex={-1}
      onPointerDown={begin}
      onPointerUp={end}
      onPointerCancel={() => (from.current = null)}
    >
      <i style={{ transform: `scaleX(${Math.min(1, held_s / asked_s)})` }} />
      {held_s > 0 ? `${held_s.toFixed(1)} of ${asked_s.toFixed(1)} s` : `Hold for ${asked_s.toFixed(1)} s`}{' '}
      <Key>Space</Key>
    </HoldButton>
  );
}
