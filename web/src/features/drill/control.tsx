import { type CockpitControl, leverEnds } from '@rouse/core/aircraft';
import type { Act } from '@rouse/core/drill';
import { memo } from 'react';
import { Button as AriaButton, Slider, SliderThumb, SliderTrack } from 'react-aria-components';
import styled from 'styled-components';
import { Key } from '../../ui/button.tsx';

const Box = styled(AriaButton)`
  display: grid;
  grid-template-columns: 28px minmax(0, 1fr);
  column-gap: 4px;
  align-items: center;
  min-height: 2.75rem;
  padding: 1px 3px;
  @media (pointer: coarse) {
    min-height: 3.25rem;
  }
  border: 1.5px solid transparent;
  border-radius: 8px;
  background: none;
  color: var(--ink);
  font: inherit;
  text-align: left;
  cursor: pointer;
  &[data-last] {
    border-color: var(--now);
    background: var(--now-paper);
  }
  &[data-disabled] {
    cursor: default;
  }
  b {
    display: block;
    font-weight: 620;
    font-size: 0.78125rem;
    line-height: 1.1;
  }
  span {
    font-size: 0.75rem;
    color: var(--soft);
    display: inline-flex;
    gap: 5px;
    align-items: center;
  }
  svg {
    overflow: visible;
  }
`;

interface ControlProps {
  control: CockpitControl;
  /** of a lever along its way, of others the place of its position */
  at: number;
  last: boolean;
  disabled: boolean;
  act: (act: Act) => void;
}

/** One control of the cockpit: a press moves it to its next place, what is held lasts as long as the press. */
export const Control = memo(function Control({ control, at, last, disabled, act }: ControlProps) {
  const { id, kind, label, positions, key } = control;
  if (kind === 'lever') return <Lever control={control} at={at} last={last} disabled={disabled} act={act} />;
  const move = (place: number): void => act({ kind: 'move', control: id, to: positions[place]!.to });
  const word = positions[at]?.label ?? '';
  const held =
    kind === 'hold' ? { onPressStart: () => move(1), onPressEnd: () => move(0) } : { onPress: () => move((at + 1) % positions.length) }; // oxfmt-ignore
  return (
    <Box {...held} isDisabled={disabled} data-control={id} data-at={word} data-last={last || undefined}>
      <Glyph kind={kind} at={at} count={positions.length} />
      <div>
        <b>{label}</b>
        <span>
          <Key>{key.toUpperCase()}</Key> {word}
        </span>
      </div>
    </Box>
  );
});

/** What kind of control it is, and where it stands, in our own drawing. */
function Glyph({ kind, at, count }: { kind: CockpitControl['kind']; at: number; count: number }) {
  const ink = 'var(--ink)';
  if (kind === 'hold')
    return (
      <svg width="26" height="30" viewBox="0 0 30 34" aria-hidden>
        <path d="M3 30h24M7 30v-12a8 8 0 0 1 16 0v12" fill="none" stroke={ink} strokeWidth="1.6" />
        <rect x="9.5" y={at > 0 ? 18 : 12} width="11" height={at > 0 ? 12 : 14} rx="3" fill={at > 0 ? 'var(--now)' : ink} />
      </svg>
    ); // oxfmt-ignore
  if (kind === 'selector') {
    const y = (place: number): number => 29 - (24 * place) / (count - 1);
    return (
      <svg width="26" height="30" viewBox="0 0 30 34" aria-hidden>
        <path d="M11 3v28" stroke={ink} strokeWidth="1.6" />
        {Array.from({ length: count }, (_, i) => (
          <path key={i} d={`M7 ${y(i)}h8`} stroke={ink} strokeWidth="1.6" />
        ))}
        <path d={`M11 ${y(at)}l8 -5h7v10h-7z`} fill={ink} />
      </svg>
    );
  }
  return (
    <svg width="26" height="30" viewBox="0 0 30 34" aria-hidden>
      {kind === 'guarded' && <path d="M2 33v-30h26v30" fill="none" stroke="var(--soft)" strokeWidth="3" />}
      <rect x="7.5" y="2" width="15" height="30" rx="6" fill={at > 0 ? 'var(--usual2)' : 'var(--sheet)'} stroke={ink} strokeWidth="1.6" />
      <rect x="7.5" y={at > 0 ? 2 : 18} width="15" height="14" rx="6" fill={ink} />
    </svg>
  ); // oxfmt-ignore
}

const LeverBox = styled(Slider)`
  grid-column: span 2;
  border: 1.5px solid transparent;
  border-radius: 8px;
  padding: 0 4px;
  min-width: 0;
  &[data-last] {
    border-color: var(--now);
    background: var(--now-paper);
  }
  > div:first-child {
    display: flex;
    gap: 6px;
    align-items: center;
    font-size: 0.75rem;
    color: var(--soft);
    b {
      font-weight: 620;
      font-size: 0.78125rem;
      color: var(--ink);
    }
  }
`;

const Way = styled(SliderTrack)`
  position: relative;
  height: 2.125rem;
  margin: 0 12px;
  @media (pointer: coarse) {
    height: 3rem;
  }
  cursor: pointer;
  &::before {
    content: '';
    position: absolute;
    inset: 4px -10px auto;
    height: 12px;
    border: 1.6px solid var(--ink);
    border-radius: 6px;
    background: var(--sheet);
  }
  i {
    position: absolute;
    top: 4px;
    height: 12px;
    border-left: 1.6px solid var(--ink);
  }
  small {
    position: absolute;
    top: 18px;
    font-size: 0.71875rem;
    color: var(--soft);
    transform: translateX(-50%);
    white-space: nowrap;
  }
  small:first-of-type {
    transform: translateX(-10px);
  }
  small:last-of-type {
    transform: translateX(calc(-100% + 10px));
  }
`;

const Grip = styled(SliderThumb)`
  top: 10px;
  width: 20px;
  height: 20px;
  border-radius: 50%;
  background: var(--sheet);
  border: 4px solid var(--now);
  &[data-focus-visible] {
    outline: 3px solid var(--now);
    outline-offset: 2px;
  }
`;

function Lever({ control, at, last, disabled, act }: ControlProps) {
  const { id, label, positions, key, hand } = control;
  const [least, most] = leverEnds(control);
  const share = (place: number): number => (100 * (place - least)) / (most - least);
  const near = positions.find((p) => Math.abs(Number(p.to) - at) < 0.02);
  const word = near?.label ?? `${Math.round(share(at))} %`;
  const take = (on: boolean): void => void (hand && act({ kind: 'hand', control: id, on }));
  return (
    <LeverBox
      value={at}
      minValue={least}
      maxValue={most}
      step={0.005}
      isDisabled={disabled}
      onChange={(v) => {
        take(true);
        act({ kind: 'move', control: id, to: v as number });
      }}
      onChangeEnd={() => take(false)}
      aria-label={label}
      data-control={id}
      data-at={word}
      data-last={last || undefined}
    >
      <div>
        <b>{label}</b> <Key>{key.toUpperCase()}</Key> {last && <Key>↑ ↓</Key>} {word}
      </div>
      <Way>
        {positions.map((p) => (
          <span key={p.label}>
            <i style={{ left: `${share(Number(p.to))}%` }} />
            <small style={{ left: `${share(Number(p.to))}%` }}>{p.label}</small>
          </span>
        ))}
        <Grip />
      </Way>
    </LeverBox>
  );
}
