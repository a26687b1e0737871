import {
  differences,
  itemState,
  presentFlow,
  presentItem,
  procedureOf,
  type RunSchedule,
  scheduleOf,
  stillOpen,
  wasFlowed,
  zonesOf,
} from '@rouse/core/procedure';
import { useEffect, useRef } from 'react';
import styled from 'styled-components';
import { upright } from '../../app/theme.ts';
import { ChartTitle } from '../../charts/frame.tsx';
import { Small } from '../../ui/heading.ts';
import { minutes } from '../../ui/words.ts';
import { WalkPlan } from './walk-plan.tsx';
import type { FollowedRun } from '../../run/run-slice.ts';

const Zones = styled.div`
  overflow: auto;
  min-height: 0;
  > div {
    columns: 9.375rem;
    column-gap: 18px;
  }
  section {
    break-inside: avoid;
    padding-bottom: 6px;
  }
  ${upright} {
    overflow: visible;
    min-height: auto;
  }
`;

const ZoneHead = styled(Small)`
  display: flex;
  justify-content: space-between;
  color: var(--track);
  span {
    font-weight: 450;
    color: var(--soft);
  }
`;

const Items = styled.ol`
  li {
    display: grid;
    grid-template-columns: 20px minmax(0, 1fr);
    gap: 4px;
    padding: 1px 4px;
    border-top: 1px solid var(--hair);
    font-size: 0.8125rem;
    border-radius: 4px;
  }
  li::before {
    content: '○';
    color: var(--soft);
  }
  li[data-status='done'] {
    color: var(--soft);
  }
  li[data-status='done']::before {
    content: '✓';
  }
  li[data-status='skipped']::before {
    content: '–';
  }
  li[data-status='fault']::before {
    content: '!';
  }
  li[data-status='skipped'],
  li[data-status='fault'],
  li[data-differs] {
    background: var(--caution-paper);
    color: var(--caution);
  }
  li[data-flowed]::before {
    content: '◐';
  }
  li[aria-current] {
    background: var(--now-paper);
    color: var(--now);
    font-weight: 650;
  }
`;

const Waits = styled.ol`
  li {
    display: grid;
    grid-template-columns: 11.875rem minmax(0, 1fr) 3.25rem;
    gap: 10px;
    align-items: center;
    font-size: 0.84375rem;
    padding: 3px 0;
  }
  i {
    display: block;
    height: 10px;
    border-radius: 3px;
    background: var(--track);
  }
  li[data-open] {
    grid-template-columns: 11.875rem minmax(0, 1fr);
    color: var(--caution);
    font-weight: 650;
  }
  li[data-critical] i {
    background: var(--now);
  }
`;

/** The leg as a walk round the cockpit: every item in its zone, and the waits of the whole run under it. */
export function WalkRound({ followed }: { followed: FollowedRun }) {
  const { type, state, detail } = followed;
  const present = presentItem(type, state);
  const list = procedureOf(type, state);
  const leg = type.legs.find((l) => l.id === (present?.leg ?? list[list.length - 1]?.leg));
  const plan = scheduleOf(type, state, { past: detail.past });
  const flow = presentFlow(type, state);
  const region = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // the present item stays in sight where the zones scroll
    const zones = region.current;
    const line = zones?.querySelector<HTMLElement>('[aria-current]');
    if (zones && line) zones.scrollTop = line.offsetTop - zones.offsetTop - zones.clientHeight / 2;
  }, [present]);
  if (!leg) return null;
  const showZone = (zone: string): void =>
    region.current?.querySelector(`[data-of="${zone}"]`)?.scrollIntoView({ block: 'nearest' });
  const differing = new Set(differences(type, state).map((i) => i.id));
  return (
    <>
      {type.plan ? (
        <WalkPlan type={type} state={state} leg={leg.id} choose={showZone} />
      ) : (
        <ChartTitle title={leg.label} about="zone by zone, in the order of the list" />
      )}
      {/* it scrolls, and must be reached there with the keyboard */}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <Zones ref={region} tabIndex={0} role="region" aria-label={`${leg.label}, zone by zone`}>
        <div>
          {zonesOf(type, state, leg.id).map((zone) => (
            <section key={zone.items[0]!.id} data-of={zone.zone}>
              <ZoneHead>
                {zone.zone}
                <span>
                  {zone.items.filter((i) => itemState(state, i.id).status !== 'todo').length} of {zone.items.length}
                </span>
              </ZoneHead>
              <Items>
                {zone.items.map((item) => {
                  const { status } = itemState(state, item.id);
                  return (
                    <li
                      key={item.id}
                      data-status={status}
                      data-flowed={(status === 'todo' && wasFlowed(state, item)) || undefined}
                      data-differs={differing.has(item.id) || undefined}
                      aria-current={(flow ? flow.zone === zone.zone : item === present) ? 'step' : undefined}
                    >
                      {item.challenge}
                    </li>
                  );
                })}
              </Items>
            </section>
          ))}
        </div>
      </Zones>
      <ChartTitle title="Open, and running" about={`ready in ${minutes(plan.ready_s)}`} />
      <WaitLines plan={plan} open={stillOpen(type, state).map((l) => l.words)} />
    </>
  );
}

/** the next so many; the head says when everything is ready */
const SHOWN_WAITS = 5;

/** What is out of its place, and every wait of the run from now on. */
function WaitLines({ plan, open }: { plan: RunSchedule; open: readonly string[] }) {
  const waits = plan.planned.filter((p) => p.item.kind === 'wait' || p.item.kind === 'watch').slice(0, SHOWN_WAITS);
  return (
    <Waits>
      {open.map((words) => (
        <li key={words} data-open>
          <span>{words}</span>
          <b>open until it is put back</b>
        </li>
      ))}
      {waits.map((p) => (
        <li key={p.item.id} data-critical={p.critical || undefined}>
          <span>{p.item.challenge}</span>
          <span>
            <i
              style={{
                marginLeft: `${(100 * p.from_s) / plan.ready_s}%`,
                width: `${Math.max(0.5, (100 * (p.to_s - p.from_s)) / plan.ready_s)}%`,
              }}
            />
          </span>
          <span>{minutes(p.to_s - p.from_s)}</span>
        </li>
      ))}
    </Waits>
  );
}
