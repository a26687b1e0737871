import { GripVertical } from 'lucide-react';
import { memo, type ReactNode, useRef } from 'react';
import { useButton } from 'react-aria/useButton';
import { useDrag } from 'react-aria/useDrag';
import { useDrop } from 'react-aria/useDrop';
import styled from 'styled-components';
import { narrower } from '../../../app/theme.ts';
import type { ShownItem } from './shown.ts';

const Line = styled.li`
  border-bottom: 1px solid var(--hair);
  /* a line that is not in sight is not laid out and not painted; an open one shows lists beyond its edge */
  &:not([data-open]) {
    content-visibility: auto;
    contain-intrinsic-block-size: auto 2.3125rem;
  }
  &[data-over] {
    box-shadow: inset 0 3px 0 var(--now);
  }
  &[data-dragged] {
    opacity: 0.5;
  }
  > div:first-child {
    display: flex;
    background: var(--sheet);
  }
`;

const Grip = styled.button`
  all: unset;
  flex: none;
  width: 28px;
  display: grid;
  place-items: center;
  color: var(--soft);
  cursor: grab;
  &:focus-visible {
    outline: 2px solid var(--now);
    outline-offset: -2px;
  }
  &[aria-disabled] {
    visibility: hidden;
  }
`;

const Row = styled.button`
  all: unset;
  box-sizing: border-box;
  flex: 1 1 0;
  min-height: 2.25rem;
  display: grid;
  grid-template-columns: 1.875rem minmax(6.5rem, 1.2fr) minmax(6.5rem, 1.6fr) 4rem 6.875rem minmax(5.25rem, 1fr) 3.5rem;
  gap: 0 8px;
  align-items: center;
  padding: 4px 16px 4px 12px;
  border-left: 4px solid transparent;
  background: var(--sheet);
  font-size: 0.84375rem;
  cursor: pointer;
  > * {
    min-width: 0;
    white-space: nowrap;
  }
  > [data-cut] {
    overflow: hidden;
    text-overflow: ellipsis;
  }
  b {
    font-weight: 600;
  }
  span {
    color: var(--soft);
  }
  &[aria-expanded='true'] {
    background: var(--now-paper);
    border-left-color: var(--now);
  }
  &[data-wrong] {
    border-left-color: var(--caution);
  }
  &:focus-visible {
    outline: 2px solid var(--now);
    outline-offset: -2px;
  }
  ${narrower(43.75)} {
    grid-template-columns: 1.875rem minmax(0, 1fr) 4rem;
    > :nth-child(3),
    > :nth-child(4),
    > :nth-child(5),
    > :nth-child(6) {
      display: none;
    }
  }
`;

/** what is carried from one line to another */
const ITEM = 'application/x-rouse-item';

/** Only what may be too long for its column gets an edge that cuts: each costs the page time at every key. */
const cut = (text: string, fits: number): true | undefined => text.length > fits || undefined;

interface LineProps {
  at: number;
  shown: ShownItem;
  open: boolean;
  wrong: boolean;
  locked: boolean;
  toggle: (at: number) => void;
  move: (from: number, to: number) => void;
  children: ReactNode;
}

/** One line of a leg: opened by a press, moved by its grip with pointer or keyboard, or with Alt and an arrow key. Drawn again when it shows something else. */
export const LegLine = memo(
  DrawnLine,
  (before, now) => sameShown(before.shown, now.shown) && KEPT.every((k) => before[k] === now[k]),
);

const KEPT = ['at', 'open', 'wrong', 'locked', 'toggle', 'move', 'children'] as const;

const sameShown = (a: ShownItem, b: ShownItem): boolean =>
  (Object.keys(a) as (keyof ShownItem)[]).every((k) => a[k] === b[k]);

function DrawnLine({ at, shown, open, wrong, locked, toggle, move, children }: LineProps) {
  const line = useRef<HTMLLIElement>(null);
  const grip = useRef<HTMLButtonElement>(null);
  const { dragProps, dragButtonProps, isDragging } = useDrag({
    getItems: () => [{ [ITEM]: String(at), 'text/plain': shown.challenge }],
    hasDragButton: true,
    isDisabled: locked,
  });
  const { buttonProps } = useButton({ ...dragButtonProps, 'aria-label': `Move ${shown.challenge}` }, grip);
  const { dropProps, isDropTarget } = useDrop({
    ref: line,
    getDropOperation: (types) => (types.has(ITEM) ? 'move' : 'cancel'),
    onDrop: ({ items }) => {
      const carried = items.find((i) => i.kind === 'text' && i.types.has(ITEM));
      if (carried?.kind === 'text') void carried.getText(ITEM).then((from) => move(Number(from), at));
    },
  });
  return (
    <Line
      {...dropProps}
      ref={line}
      data-row={shown.id}
      data-open={open || undefined}
      data-over={isDropTarget || undefined}
      data-dragged={isDragging || undefined}
      aria-label={shown.challenge}
    >
      <div {...dragProps}>
        <Grip {...buttonProps} ref={grip} type="button">
          <GripVertical size={16} aria-hidden />
        </Grip>
        <Row
          type="button"
          aria-expanded={open}
          data-wrong={wrong || undefined}
          onClick={() => toggle(at)}
          onKeyDown={(e) => {
            if (!e.altKey || locked || (e.key !== 'ArrowUp' && e.key !== 'ArrowDown')) return;
            e.preventDefault();
            move(at, e.key === 'ArrowUp' ? at - 1 : at + 1);
          }}
        >
          <span>{at + 1}</span>
          <b data-cut={cut(shown.challenge, 18)}>{shown.challenge}</b>
          <span data-cut={cut(shown.response, 18)}>{shown.response}</span>
          <span>{shown.kind}</span>
          <span data-cut={cut(shown.zone, 16)}>{shown.zone}</span>
          <span data-cut={cut(shown.sensedBy, 13)}>{shown.sensedBy}</span>
          <span>{shown.failure}</span>
        </Row>
      </div>
      {children}
    </Line>
  );
}
