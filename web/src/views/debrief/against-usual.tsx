import type { Debrief } from '@rouse/core/contract';
import { isWorse } from '@rouse/core/health';
import styled from 'styled-components';
import { mono } from '../../app/theme.ts';
import { Small } from '../../parts/heading.ts';

const Column = styled.aside`
  grid-area: right;
  border-left: 1px solid var(--line);
  background: var(--sheet);
  padding: 14px 16px;
  overflow: auto;
`;

const Row = styled.li`
  padding: 9px 0 11px;
  border-top: 1px solid var(--hair);
  > div:first-child {
    display: flex;
    align-items: baseline;
    gap: 6px;
    font-size: 14.5px;
  }
  b {
    ${mono}
    font-size: 18px;
    margin-left: auto;
  }
  small {
    font-size: 12.5px;
    color: var(--soft);
    width: 22px;
  }
  p {
    font-size: 12.5px;
    color: var(--soft);
    margin-top: 6px;
  }
  &[data-worse] p {
    color: var(--caution);
    font-weight: 650;
  }
`;

const Line = styled.div`
  height: 9px;
  margin-top: 8px;
  position: relative;
  background: var(--deep);
  border-radius: 3px;
  i {
    position: absolute;
    inset-block: 0;
    background: var(--water2);
    border-radius: 2px;
  }
  u {
    position: absolute;
    inset-block: -1px;
    width: 2px;
    background: var(--track);
  }
  span {
    position: absolute;
    top: -3px;
    width: 15px;
    height: 15px;
    margin-left: -7px;
    border-radius: 50%;
    border: 3.5px solid var(--now);
    background: var(--sheet);
  }
`;

const OUTSIDE = { usual: '', unknown: '', high: ', higher than ever', low: ', lower than ever' } as const;

type Compared = Debrief['starts'][number]['compared'][number];

/** Each figure of the start as a dot on this tail's usual range. */
export function AgainstUsual({ start }: { start: Debrief['starts'][number] | undefined }) {
  return (
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex
    <Column aria-label="Against its usual" tabIndex={0}>
      <Small>Against its usual</Small>
      {!start && <p>No engine start in this run.</p>}
      <ul>
        {start?.compared.map((c) => (
          <Figure key={c.spec.id} compared={c} />
        ))}
      </ul>
      {start && (
        <>
          <Small>Time past the temperature bands</Small>
          <ul>
            {start.bands.map((band) => (
              <Row key={band.band}>
                <div>
                  above {band.edge} °C <b>{band.seconds.toFixed(1)}</b>
                  <small>s</small>
                </div>
                <p>{band.allowed_s === 0 ? 'never allowed' : `${band.allowed_s} s allowed`}</p>
              </Row>
            ))}
          </ul>
        </>
      )}
    </Column>
  );
}

function Figure({ compared: { spec, value, usual, verdict } }: { compared: Compared }) {
  const say = (v: number): string => v.toFixed(spec.decimals);
  return (
    <Row data-worse={isWorse(spec, verdict) || undefined}>
      <div>
        {spec.label} <b>{value === null ? '–' : say(value)}</b>
        <small>{value === null ? '' : spec.unit}</small>
      </div>
      {usual && <UsualLine value={value} usual={usual} />}
      <p>{usual ? `usual ${say(usual.low)} to ${say(usual.high)}${OUTSIDE[verdict]}` : 'too few earlier starts'}</p>
    </Row>
  );
}

function UsualLine({ value, usual }: { value: number | null; usual: NonNullable<Compared['usual']> }) {
  const span = Math.max(usual.most - usual.least, 1e-6);
  const low = Math.min(usual.least, value ?? usual.least) - 0.35 * span;
  const high = Math.max(usual.most, value ?? usual.most) + 0.35 * span;
  const at = (v: number): number => (100 * (v - low)) / (high - low);
  return (
    <Line aria-hidden>
      <i style={{ left: `${at(usual.low)}%`, width: `${at(usual.high) - at(usual.low)}%` }} />
      <u style={{ left: `${at(usual.median)}%` }} />
      {value !== null && <span style={{ left: `${at(value)}%` }} />}
    </Line>
  );
}
