import { type Outline, type Plan, PLAN_SIZE, type TypeFile } from '@rouse/core/aircraft';
import { itemState, presentItem, type RunState, zonesOf } from '@rouse/core/procedure';
import styled from 'styled-components';

const Drawing = styled.svg`
  width: 100%;
  height: auto;
  max-height: 14.75rem;
  background: var(--deep);
  border: 1px solid var(--line);
  border-radius: 10px;
  text {
    font-size: 11px;
    fill: var(--ink);
  }
  .shape {
    fill: var(--sheet);
    stroke: var(--ink);
    stroke-width: 1.6;
  }
  .detail {
    fill: none;
    stroke: var(--soft);
    stroke-width: 1.1;
  }
  .path {
    fill: none;
    stroke: var(--now);
    stroke-width: 1.8;
    stroke-dasharray: 5 4;
    opacity: 0.55;
  }
  [data-zone] {
    cursor: pointer;
  }
  [data-zone] > rect:first-child {
    fill: var(--usual1);
    stroke: var(--track);
    stroke-width: 1.2;
  }
  [data-zone='done'] > rect:first-child {
    fill: var(--usual2);
  }
  [data-zone='now'] > rect:first-child {
    fill: var(--now-paper);
    stroke: var(--now);
    stroke-width: 2.4;
  }
  [data-zone='now'] text {
    fill: var(--now);
    font-weight: 700;
  }
  [data-zone='left-out'] > rect:first-child {
    fill: var(--caution-paper);
    stroke: var(--caution);
  }
  .tick {
    stroke: none;
    fill: var(--button-line);
  }
  .tick[data-status='done'] {
    fill: var(--track);
  }
  .tick[data-status='skipped'],
  .tick[data-status='fault'] {
    fill: var(--caution);
  }
  .tick[data-now] {
    fill: var(--now);
  }
`;

/** Our own outlines, nose to the left: where things are, not how they look. */
const OUTLINES: Readonly<Record<Outline, { body: string; details: readonly string[] }>> = {
  trainer: {
    body: 'M66,120C66,92 108,78 160,80C206,82 236,96 262,110L500,114L500,126L262,130C236,144 206,158 160,160C108,162 66,148 66,120Z',
    details: ['M96,84L96,156', 'M492,92L512,92L512,148L492,148', 'M84,176L232,176', 'M84,64L232,64'],
  },
  single: {
    body: 'M58,120C58,84 112,70 190,72C250,74 282,92 306,108L520,113L520,127L306,132C282,148 250,166 190,168C112,170 58,156 58,120Z',
    details: ['M112,76L112,164', 'M236,92L284,92L284,148L236,148Z', 'M508,88L530,88L530,152L508,152', 'M84,186L262,186', 'M84,54L262,54'],
  },
  twin: {
    body: 'M56,120C56,80 120,62 220,64C300,66 336,86 356,106L540,112L540,128L356,134C336,154 300,174 220,176C120,178 56,160 56,120Z',
    details: ['M120,70L120,170', 'M300,80L356,84L356,106L300,104Z', 'M300,160L356,156L356,134L300,136Z', 'M520,84L548,84L548,156L520,156', 'M96,194L300,194', 'M96,46L300,46'],
  },
  heavy: {
    body: 'M50,120C50,74 120,56 250,58C340,60 378,82 396,104L556,111L556,129L396,136C378,158 340,180 250,182C120,184 50,166 50,120Z',
    details: ['M112,66L112,174', 'M320,76L390,82L390,106L320,104Z', 'M320,164L390,158L390,134L320,136Z', 'M536,80L568,80L568,160L536,160', 'M200,58L200,182'],
  },
}; // oxfmt-ignore

const TICK_PX = 6;
/** ticks stand in rows of so many */
const TICKS = 8;
const LETTER_PX = 5.7;

interface PlacedZone {
  zone: string;
  x: number;
  y: number;
  items: { id: string; status: string; now: boolean }[];
  state: 'todo' | 'done' | 'now' | 'left-out';
}

/** The zones of a leg that the plan has a place for, in the order in which they are walked first. */
function placed(type: TypeFile, state: RunState, plan: Plan, leg: string): PlacedZone[] {
  const present = presentItem(type, state);
  return zonesOf(type, state, leg).flatMap(({ zone, items: its }): PlacedZone[] => {
    const at = plan.zones[zone];
    if (!at) return [];
    const items = its.map((i) => ({ id: i.id, status: itemState(state, i.id).status, now: i === present }));
    return [{ zone, x: at[0], y: at[1], items, state: stateOf(items) }];
  });
}

function stateOf(items: PlacedZone['items']): PlacedZone['state'] {
  if (items.some((i) => i.now)) return 'now';
  if (items.some((i) => i.status === 'skipped' || i.status === 'fault')) return 'left-out';
  return items.every((i) => i.status !== 'todo') ? 'done' : 'todo';
}

/** Where the items of a leg are: a plan of the aircraft by its zones, the walk through them, and what is done in each. */
export function WalkPlan({ type, state, leg, choose }: { type: TypeFile; state: RunState; leg: string; choose: (zone: string) => void }) {
  const { plan } = type;
  if (!plan) return null;
  const zones = placed(type, state, plan, leg);
  const { body, details } = OUTLINES[plan.outline];
  const walk = zones.map((z, i) => `${i === 0 ? 'M' : 'L'}${z.x},${z.y}`).join('');
  const left = zones.flatMap((z) => z.items).filter((i) => i.status === 'todo').length;
  return (
    <Drawing viewBox={`0 0 ${PLAN_SIZE.width} ${PLAN_SIZE.height}`} role="img" aria-label={`Plan of the aircraft: ${zones.length} zones, ${left} items to go`}>
      <path className="shape" d={body} />
      {details.map((d) => (
        <path key={d} className="detail" d={d} />
      ))}
      <path className="path" d={walk} />
      {zones.map((z, i) => (
        <Zone key={z.zone} zone={z} number={i + 1} choose={choose} />
      ))}
      <text x={PLAN_SIZE.width - 10} y={PLAN_SIZE.height - 10} textAnchor="end" style={{ fill: 'var(--soft)' }}>
        Where things are, not how they look.
      </text>
    </Drawing>
  );
} // oxfmt-ignore

function Zone({ zone, number, choose }: { zone: PlacedZone; number: number; choose: (zone: string) => void }) {
  const { items, x, y } = zone;
  const words = `${number} ${zone.zone}`;
  const across = Math.min(TICKS, items.length);
  const rows = Math.ceil(items.length / TICKS);
  const width = Math.max(words.length * LETTER_PX, across * TICK_PX) + 12;
  const height = 20 + rows * 9;
  return (
    <g
      data-zone={zone.state}
      transform={`translate(${x - width / 2},${y - height / 2})`}
      onClick={() => choose(zone.zone)}
    >
      <rect width={width} height={height} rx="8" />
      <text x={width / 2} y="13.5" textAnchor="middle">
        {words}
      </text>
      {items.map((item, i) => (
        <rect
          key={item.id}
          className="tick"
          data-status={item.status}
          data-now={item.now || undefined}
          x={(width - across * TICK_PX) / 2 + (i % TICKS) * TICK_PX}
          y={18 + 9 * Math.floor(i / TICKS)}
          width={TICK_PX - 2}
          height="7"
          rx="1"
        />
      ))}
    </g>
  );
}
