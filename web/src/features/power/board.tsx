import type { BoardLine, OneEngineBoard } from '@rouse/core/power';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { useUnits } from '../../ui/units.ts';

const HOLDS = {
  OEI_CONT: 'holds on continuous',
  OEI_2MIN: 'holds two minutes',
  OEI_30S: 'holds thirty seconds',
  NONE: 'comes down',
} as const;
const FOR = { OEI_CONT: 'continuous', OEI_2MIN: 'two minutes', OEI_30S: 'thirty seconds' } as const;

const Lines = styled.table`
  width: 100%;
  border-collapse: collapse;
  font-size: 0.875rem;
  th {
    text-align: left;
    font-weight: 500;
    font-size: 0.78125rem;
    color: var(--soft);
    padding: 3px 10px 3px 0;
  }
  td {
    padding: 4px 10px 4px 0;
    border-top: 1px solid var(--hair);
    vertical-align: baseline;
  }
  td:first-child {
    width: 34%;
  }
  td:nth-child(2) {
    font-weight: 700;
    font-size: 1rem;
    white-space: nowrap;
  }
  td[data-figure] {
    ${mono}
    white-space: nowrap;
  }
  tr[data-holds='NONE'] td:nth-child(2) {
    color: var(--warning);
  }
  tr[data-holds='OEI_30S'] td:nth-child(2) {
    color: var(--caution);
  }
  small {
    display: block;
    color: var(--soft);
    font-size: 0.78125rem;
    font-weight: 450;
  }
`;

const Verdict = styled.div`
  border-left: 5px solid var(--track);
  background: var(--sheet);
  padding: 9px 14px;
  border-radius: 0 9px 9px 0;
  h2 {
    font-size: 1.1875rem;
    font-weight: 720;
  }
  p {
    font-size: 0.875rem;
    color: var(--soft);
  }
  &[data-verdict='NOT_ACCEPTABLE'] {
    border-color: var(--warning);
    background: var(--warning-paper);
  }
  &[data-verdict='LAND_ONLY'],
  &[data-verdict='TIME_LIMITED'] {
    border-color: var(--caution);
    background: var(--caution-paper);
  }
`;

/** If an engine quits now: each hover with what it becomes, and what has to go for the next gentler rating. */
export function Board({ board, wind_kt }: { board: OneEngineBoard; wind_kt: number }) {
  const { show } = useUnits();
  return (
    <>
      <VerdictBox board={board} />
      <Given line={board.lines[0]!} />
      <Lines>
        <thead>
          <tr>
            <th>If an engine quits</th>
            <th>the other</th>
            <th>Takes</th>
            <th>For the next gentler rating</th>
          </tr>
        </thead>
        <tbody>
          {board.lines.map((line) => (
            <tr key={line.id} data-line={line.id} data-holds={line.holds}>
              <td>
                {line.label}
                <small>{show(line.mass_kg, 'mass', 'ceil')}</small>
              </td>
              <td>
                {HOLDS[line.holds]}
                {wind_kt > 0 && line.inWind !== line.holds && (
                  <small>
                    with {wind_kt} kt all the time: {HOLDS[line.inWind]}
                  </small>
                )}
              </td>
              <td data-figure>{line.needed_pct.toFixed(1)} %</td>
              <td>{line.better ? <Better better={line.better} /> : 'nothing to shed'}</td>
            </tr>
          ))}
        </tbody>
      </Lines>
    </>
  );
}

const Torques = styled.p`
  font-size: 0.875rem;
  b {
    ${mono}
    font-size: 1rem;
  }
`;

/** What the other engine gives today. */
function Given({ line: { given_pct } }: { line: BoardLine }) {
  return (
    <Torques>
      The other gives today <b>{given_pct.OEI_CONT.toFixed(1)}</b> % continuous, <b>{given_pct.OEI_2MIN.toFixed(1)}</b>{' '}
      % for two minutes, <b>{given_pct.OEI_30S.toFixed(1)}</b> % for thirty seconds.
    </Torques>
  );
}

function Better({ better: { rating, shed_kg, burn_min } }: { better: NonNullable<BoardLine['better']> }) {
  const { show } = useUnits();
  return (
    <>
      {show(shed_kg, 'mass', 'ceil')} less
      <small>
        for {FOR[rating]}, or {burn_min} min of hovering
      </small>
    </>
  );
}

const AFTER = {
  HOLD: 'It holds',
  FLY_AWAY: 'Fly away before the time ends',
  LAND_WITHIN_RATING_TIME: 'Land within the time of the rating',
  FLY_AWAY_LOSING_HEIGHT: 'Fly away, losing height',
  LAND_NOW: 'It comes down: land now',
  NOTHING_SAFE: 'Nothing safe is left: change something before you go there',
} as const;

const REASONS: Readonly<Record<string, string>> = {
  CONTINUOUS_HOLDS_HOVER: 'continuous power keeps this hover',
  TIME_LIMITED_HOVER: 'this hover is kept for the time of a rating only',
  CANNOT_HOLD_HOVER: 'this hover is not kept',
  CLIMB_AVAILABLE_AT_VY: 'with speed it climbs',
  NO_CLIMB_AT_VY: 'it does not climb with speed either',
  OBSTACLES: 'obstacles in the way, or nobody has said that there are none',
  NO_LANDING_AREA: 'no place to land, or nobody has said that there is one',
  HEIGHT_BELOW_FLYAWAY_LOSS: 'too low to turn height into speed',
};

function VerdictBox({ board: { verdict } }: { board: OneEngineBoard }) {
  const { show } = useUnits();
  const { roc_vy_fpm, height_loss_ft } = verdict.display;
  const loss = verdict.height_loss_m === 0 ? 'no height' : `${show(height_loss_ft, 'height', 'ceil')} with its margin`;
  const climb = roc_vy_fpm >= 0 ? `climbs ${roc_vy_fpm}` : `sinks ${-roc_vy_fpm}`;
  return (
    <Verdict data-verdict={verdict.verdict} role="status">
      <h2>{AFTER[verdict.after]}</h2>
      <p>
        {sentence(verdict.reasons.map((r) => REASONS[r] ?? r))} Flying away from out of ground effect costs {loss}; at
        its best speed it {climb} ft/min on continuous. A conservative rule, not a certified procedure.
      </p>
    </Verdict>
  );
}

const sentence = (parts: readonly string[]): string => {
  const text = parts.join('; ');
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
};
