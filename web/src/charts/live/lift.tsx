import { finalScan, powerNow, sayPower, type ScanLine } from '@rouse/core/procedure';
import { CircleAlert, CircleCheck, CircleHelp } from 'lucide-react';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { mono } from '../../app/theme.ts';
import { ChartTitle } from '../frame.tsx';
import { useUnits } from '../../ui/units.ts';
import { usePulse } from '../../platform/pulse.ts';
import { runClock } from '../../run/clock.ts';
import { ring } from '../../run/frame-ring.ts';
import type { WatchedRun } from '../../run/run-slice.ts';
import { PowerBar } from './power-bar.tsx';

const Lines = styled.ul`
  overflow: auto;
  min-height: 0;
  display: grid;
  grid-template-columns: minmax(0, 1fr) minmax(0, 1fr);
  column-gap: 22px;
  align-content: start;
  li {
    display: grid;
    grid-template-columns: 20px minmax(0, 1fr) auto;
    gap: 8px;
    align-items: baseline;
    padding: 4px 0;
    border-top: 1px solid var(--hair);
    font-size: 0.875rem;
  }
  li[data-wide] {
    grid-column: 1 / -1;
    grid-template-columns: 20px 11.875rem minmax(0, 1fr);
  }
  svg {
    align-self: center;
  }
  b {
    ${mono}
    font-weight: 640;
  }
  li[data-wide] b {
    font-family: inherit;
    font-weight: 500;
    color: var(--soft);
  }
  li[data-verdict='false'] {
    color: var(--warning);
    b {
      color: var(--warning);
    }
  }
  li[data-verdict='unknown'] svg {
    color: var(--caution);
  }
  li[data-verdict='true'] svg {
    color: var(--track);
  }
`;

const Figures = styled.p`
  font-size: 0.875rem;
  b {
    ${mono}
    font-size: 1rem;
  }
`;

const SIGNS = { true: CircleCheck, false: CircleAlert, unknown: CircleHelp } as const;
const SAID = { true: 'good', false: 'not ready', unknown: 'look yourself' } as const;
const OF_RECORD = ['captions', 'air', 'power', 'fuel', 'still-open', 'not-done', 'wind', 'people'];

/** The last screen before lift: the power of this minute, and every line of the last look as it stands now. */
export function LiftScreen({ followed }: { followed: WatchedRun }) {
  const now_ms = usePulse(300);
  const status = useAppSelector((s) => s.run.status);
  const { show } = useUnits();
  const { type, state, detail } = followed;
  const t_s = runClock(status, detail.openedAt);
  const frame = ring.lastFrame(now_ms);
  const lines = finalScan(type, state, frame, t_s);
  const now = powerNow(type, state, frame, t_s);
  const open = lines.filter((l) => l.verdict === false);
  return (
    <>
      <ChartTitle
        title="Power of this minute"
        about={
          'unknown' in now
            ? `unknown: ${now.unknown}`
            : `${show(now.mass_kg, 'mass', 'ceil')}, ${show(now.oat_C, 'temperature')}, pressure altitude ${Math.ceil(now.pa_ft / 10) * 10} ft`
        }
      />
      {'unknown' in now ? (
        <Figures>{sayPower(now).words}</Figures>
      ) : (
        <div>
          <PowerBar now={now} observed={null} />
          <Figures data-power>
            {now.quantity}: <b>{now.takeOff.toFixed(1)}</b> {now.unit} for take-off, <b>{now.continuous.toFixed(1)}</b>{' '}
            continuous. {sayPower(now).words}.
          </Figures>
        </div>
      )}
      <ChartTitle
        title="Last look"
        about={
          open.length === 0
            ? 'nothing says that it is not ready'
            : `not ready: ${open.map((l) => l.label.toLowerCase()).join(', ')}`
        }
      />
      <Lines data-scan>
        {lines.map((line) => (
          <Line key={line.id} line={line} />
        ))}
      </Lines>
    </>
  );
}

function Line({ line: { id, label, verdict, words } }: { line: ScanLine }) {
  const name = String(verdict) as keyof typeof SIGNS;
  const Sign = SIGNS[name];
  return (
    <li data-line={id} data-verdict={name} data-wide={OF_RECORD.includes(id) || undefined}>
      <Sign size={17} aria-label={SAID[name]} />
      <span>{label}</span>
      <b>{words}</b>
    </li>
  );
}
