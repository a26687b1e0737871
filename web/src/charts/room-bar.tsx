import { bandEdge, type Limit } from '@rouse/core/aircraft';
import styled from 'styled-components';

const Bar = styled.div`
  height: 12px;
  margin-top: 6px;
  position: relative;
  background: var(--usual1);
  border-radius: 3px;
  overflow: hidden;
  &[data-unknown] {
    background: none;
    border: 1.5px dashed var(--button-line);
  }
  i {
    position: absolute;
    inset-block: 0;
  }
  .wet {
    background: var(--usual2);
    left: 0;
  }
  .timed {
    background: var(--band2);
    border-inline: 1px dashed var(--limit-edge);
  }
  .beyond {
    background: repeating-linear-gradient(135deg, var(--limit-hatch) 0 3px, var(--limit-fill) 3px 7px);
    border-inline: 2px solid var(--limit-edge);
  }
  .point {
    width: 4px;
    margin-left: -2px;
    background: var(--ink);
    border-radius: 2px;
  }
`;

interface RoomBarProps {
  range: readonly [number, number];
  /** limits in force now */
  limits: readonly Limit[];
  value: number;
}

/** The whole range of one reading with its limits, and where it stands. The same signs as on every chart, on a line. */
export function RoomBar({ range: [low, high], limits, value }: RoomBarProps) {
  const at = (v: number): number => Math.max(0, Math.min(100, (100 * (v - low)) / (high - low)));
  const zones = limits.flatMap((limit) =>
    limit.bands.map((band, i) => {
      const edge = bandEdge(band);
      const next = limit.bands[i + 1];
      const above = 'above' in band;
      const end = next ? bandEdge(next) : above ? high : low;
      const from = at(above ? edge : end);
      const to = at(above ? end : edge);
      return { key: `${limit.id}/${band.id}`, left: from, width: to - from, beyond: band.forSeconds === 0 || !next };
    }),
  );
  const unknown = Number.isNaN(value);
  return (
    <Bar data-unknown={unknown || undefined} aria-hidden>
      {!unknown && <i className="wet" style={{ width: `${at(value)}%` }} />}
      {zones.map((z) => (
        <i key={z.key} className={z.beyond ? 'beyond' : 'timed'} style={{ left: `${z.left}%`, width: `${z.width}%` }} />
      ))}
      {!unknown && <i className="point" style={{ left: `${at(value)}%` }} />}
    </Bar>
  );
}
