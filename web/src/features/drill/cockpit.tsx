import type { Item, WatchedType } from '@rouse/core/aircraft';
import { type Act, cockpitPlan, type DrillView, type PlanZone } from '@rouse/core/drill';
import { Check } from 'lucide-react';
import { memo, useCallback, useEffect, useMemo, useRef } from 'react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import { phone, upright } from '../../app/theme.ts';
import { Control } from './control.tsx';

const Shell = styled.div`
  display: grid;
  grid-template-columns: repeat(12, minmax(0, 1fr));
  grid-auto-flow: dense;
  gap: 6px;
  padding: 6px;
  border: 2px solid var(--usual3);
  border-radius: 10px;
  background: var(--usual1);
  overflow: auto;
  ${upright} {
    overflow: visible;
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
  }
`;

const Zone = styled.section<{ $span: number }>`
  grid-column: span ${({ $span }) => $span};
  padding: 4px 6px;
  border: 1.5px solid var(--usual3);
  border-radius: 8px;
  background: var(--sheet);
  min-width: 0;
  h3 {
    font-size: 0.8125rem;
    font-weight: 650;
    color: var(--track);
  }
  > div {
    display: grid;
    grid-template-columns: repeat(auto-fill, minmax(min(100%, 6.125rem), 1fr));
    column-gap: 2px;
    align-items: center;
  }
  ${phone} {
    grid-column: span 1;
  }
`;

const SpotButton = styled(AriaButton)`
  display: flex;
  gap: 6px;
  align-items: center;
  min-height: 2.125rem;
  padding: 2px 4px;
  @media (pointer: coarse) {
    min-height: 3rem;
  }
  border: 1.5px solid transparent;
  border-radius: 8px;
  background: none;
  color: var(--ink);
  font: inherit;
  font-size: 0.78125rem;
  line-height: 1.1;
  text-align: left;
  cursor: pointer;
  &::before {
    content: '';
    flex: none;
    width: 12px;
    height: 12px;
    border: 1.6px solid var(--soft);
    border-radius: 50%;
  }
  &[data-settled]::before {
    display: none;
  }
  &[data-now] {
    border-color: var(--now);
    background: var(--now-paper);
  }
  svg {
    flex: none;
    color: var(--track);
  }
`;

/** How much of the width a zone needs, in twelfths, by what is in it. A lever is as wide as two switches. */
function spanOf({ controls, spots }: PlanZone): number {
  const cells = controls.length + spots.length + controls.filter((c) => c.kind === 'lever').length;
  if (cells > 8) return 12;
  return cells > 2 ? 4 : 2;
}

interface CockpitProps {
  type: WatchedType;
  items: readonly Item[];
  view: DrillView | null;
  last: string | null;
  /** the item that is shown; null where the list is not */
  shown: string | null;
  disabled: boolean;
  act: (act: Act) => void;
  choose: (item: Extract<Item, { kind: 'decide' }>) => void;
}

/** The cockpit as the type has it: every control moves the simulator, every other place is looked at, read or spoken from. */
export function Cockpit({ type, items, view, last, shown, disabled, act, choose }: CockpitProps) {
  const settled = new Set(view?.settled);
  const zones = useMemo(
    // what spans the cockpit stands over what stands side by side
    () => cockpitPlan(type, items).toSorted((a, b) => Number(spanOf(b) === 12) - Number(spanOf(a) === 12)),
    [type, items],
  );
  // ten times a second the view is new: only what has moved in it is drawn again
  const hands = useRef({ act, choose });
  useEffect(() => {
    hands.current = { act, choose };
  });
  const move = useCallback((wanted: Act) => hands.current.act(wanted), []);
  const look = useCallback((item: Item) => (item.kind === 'decide' ? hands.current.choose(item) : hands.current.act({ kind: 'look', item: item.id })), []); // oxfmt-ignore
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Shell aria-label="The cockpit" role="group" tabIndex={0}>
      {zones.map((zone) => (
        <Zone key={zone.zone} $span={spanOf(zone)} aria-label={zone.zone} data-zone={zone.zone}>
          <h3>{zone.zone.replace(/^./, (c) => c.toUpperCase())}</h3>
          <div>
            {zone.controls.map((control) => (
              <Control
                key={control.id}
                control={control}
                at={view?.positions[control.id] ?? 0}
                last={last === control.id}
                disabled={disabled}
                act={move}
              />
            ))}
            {zone.spots.map((item) => (
              <Spot
                key={item.id}
                item={item}
                settled={settled.has(item.id)}
                now={item.id === shown}
                held_s={item.id === view?.present ? view.held_s : null}
                disabled={disabled}
                look={look}
              />
            ))}
          </div>
        </Zone>
      ))}
    </Shell>
  );
}

interface SpotProps {
  item: Item;
  settled: boolean;
  now: boolean;
  /** whole seconds for which it is held, null where it is not */
  held_s: number | null;
  disabled: boolean;
  look: (item: Item) => void;
}

/** A place of the cockpit that is looked at, read or spoken from. */
const Spot = memo(function Spot({ item, settled, now, held_s, disabled, look }: SpotProps) {
  return (
    <SpotButton
      isDisabled={disabled}
      data-spot={item.id}
      data-settled={settled || undefined}
      data-now={now || undefined}
      onPress={() => look(item)}
    >
      {settled && <Check size={14} aria-label="done" />}
      {item.challenge}
      {held_s !== null && <b data-held>{held_s} s</b>}
    </SpotButton>
  );
});
