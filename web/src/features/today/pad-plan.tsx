import type { AircraftToday, SiteToday } from '@rouse/core/contract';
import styled from 'styled-components';

const W = 220;
const H = 112;
const MARGIN = 22;

const Plan = styled.svg`
  width: 100%;
  max-width: 14.125rem;
  max-height: 7.25rem;
  background: var(--deep);
  border: 1px solid var(--line);
  border-radius: 10px;
  rect {
    fill: var(--sheet);
    stroke: var(--line);
  }
  path {
    fill: var(--ink);
  }
  [data-state='held'] {
    fill: var(--warning);
  }
  [data-state='running'] {
    fill: var(--now);
  }
  text {
    font-size: 10px;
    fill: var(--soft);
  }
  line {
    stroke: var(--now);
    stroke-width: 2;
  }
`;

/** a helicopter from above, nose up */
const SHAPE = 'M0,-9C4,-9 5,-4 4,0L1.4,4L1,11L3,13L-3,13L-1,11L-1.4,4L-4,0C-5,-4 -4,-9 0,-9Z';

/** Who stands where, which way the noses point, and where the wind comes from. */
export function PadPlan({ site, aircraft, wind }: { site: SiteToday; aircraft: readonly AircraftToday[]; wind: { direction_deg: number | null; speed_kt: number | null } | null }) {
  const xs = site.pads.map((p) => p.x_m);
  const ys = site.pads.map((p) => p.y_m);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [south, north] = [Math.min(...ys), Math.max(...ys)];
  const scale = Math.min((W - 2 * MARGIN) / (right - left || 1), (H - 2 * MARGIN) / (north - south || 1));
  const px = (x_m: number): number => W / 2 + (x_m - (left + right) / 2) * scale;
  const py = (y_m: number): number => H / 2 - (y_m - (south + north) / 2) * scale;
  const from = wind?.direction_deg;
  const blows = wind?.speed_kt != null && wind.speed_kt > 0 && from != null;
  return (
    <Plan viewBox={`0 0 ${W} ${H}`} role="img" aria-label={planWords(aircraft, blows ? from : null)}>
      {site.pads.map((p) => {
        const on = aircraft.filter((a) => a.pad === p.pad);
        return (
          <g key={p.pad} transform={`translate(${px(p.x_m)},${py(p.y_m)})`}>
            <rect x="-17" y="-17" width="34" height="34" rx="5" />
            <text x="-14" y="-8">{p.pad.split(',')[0]!.replace('pad ', '')}</text>
            {on.slice(0, 1).map((a) => (
              <path key={a.aircraft} d={SHAPE} transform={`rotate(${(a.allows?.heading_deg ?? 0) + site.variation_E_deg})`} data-state={a.openRun ? 'running' : a.openExceedances > 0 ? 'held' : undefined} />
            ))}
          </g>
        );
      })}
      {blows && (
        <g transform={`translate(${W - 26},24) rotate(${from + 180})`}>
          <line x1="0" y1="15" x2="0" y2="-12" />
          <path d="M0,-17L-5,-7L5,-7Z" style={{ fill: 'var(--now)' }} />
        </g>
      )}
    </Plan>
  );
} // oxfmt-ignore

function planWords(aircraft: readonly AircraftToday[], from: number | null): string {
  const who = aircraft.map((a) => `${a.tail} on ${a.pad.split(',')[0]}`).join(', ');
  return `${who || 'Nobody stands here'}${from === null ? '' : `; wind from ${from}°`}`;
}
