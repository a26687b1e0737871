import type { TurbineStart } from '@rouse/core/aircraft';
import { bookingOf, forecastResidual } from '@rouse/core/shutdown';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { ChartTitle } from '../frame.tsx';
import { BookedTable } from '../../ui/booked-table.tsx';
import { clockTime } from '../../ui/words.ts';
import { usePulse, useWallClock } from '../../platform/pulse.ts';
import { ring } from '../../run/frame-ring.ts';
import type { WatchedRun } from '../../run/run-slice.ts';
import { FigureRows } from './figures.ts';

const Scrolled = styled.div`
  overflow: auto;
  min-height: 0;
`;

/** The gate of the next start that asks for a residual temperature, °C. */
function residualGate(spec: TurbineStart): number | null {
  const gates = spec.gates.flatMap(({ condition: c }) =>
    'atMost' in c && c.channel === spec.channels.temperature ? [c.atMost] : [],
  );
  return gates.length > 0 ? Math.min(...gates) : null;
}

/** After the engines have stopped: what the residual temperature will do, when a start is open again, and what was booked. */
export function AfterRun({ followed }: { followed: WatchedRun }) {
  const { type, entries } = followed;
  const frame = ring.lastFrame(usePulse(1000));
  const now_ms = useWallClock(1000);
  const ratings = useAppSelector((s) => s.run.status?.ratings) ?? [];
  const at = (id: string | undefined): number => frame[type.channels.findIndex((c) => c.id === id)] ?? NaN;
  const turbines = type.startWatches.filter((w): w is TurbineStart => w.kind === 'turbine' && w.engine > 0);
  const booking = bookingOf(type, entries, ratings);
  return (
    <>
      <ChartTitle title="Residual temperature" about="as the metal cools in this air, and when a start is open again" />
      <Scrolled>
        <FigureRows>
          <thead>
            <tr>
              <th>Engine</th>
              <th>Now</th>
              <th>In 15 min</th>
              <th>In 30 min</th>
              <th>Start open</th>
            </tr>
          </thead>
          <tbody>
            {turbines.map((spec) => {
              const limit_C = residualGate(spec);
              const now = {
                tot_C: at(spec.channels.temperature),
                oat_C: at(spec.channels.outsideAir),
                oil_C: at(`oil.${spec.engine}.temperature`),
              };
              const forecast = limit_C === null ? null : forecastResidual(type, limit_C, now);
              const later = (min: number): string => {
                const point = forecast?.curve.find((p) => p.min === min);
                return point ? `${Math.ceil(point.tot_C)} °C` : 'unknown';
              };
              const wait = forecast?.startIn_min ?? null;
              return (
                <tr key={spec.id} data-residual={spec.engine}>
                  <td>{spec.label}</td>
                  <td>{Number.isNaN(now.tot_C) ? 'unknown' : `${now.tot_C.toFixed(0)} °C`}</td>
                  <td>{later(15)}</td>
                  <td>{later(30)}</td>
                  <td>
                    {forecast === null
                      ? 'unknown'
                      : wait === null
                        ? 'not within the hour, unless it is motored'
                        : wait === 0
                          ? `now: at most ${limit_C} °C`
                          : `${clockTime(new Date(now_ms + wait * 60_000))}, in ${wait} min; sooner if it is motored`}
                  </td>
                </tr>
              );
            })}
            {turbines.length === 0 && (
              <tr>
                <td colSpan={5}>No gas temperature on this type: a hot engine starts by its own items.</td>
              </tr>
            )}
          </tbody>
        </FigureRows>
      </Scrolled>
      <ChartTitle title="Booked" about="when this run is closed" />
      <BookedTable booking={booking} />
    </>
  );
}
