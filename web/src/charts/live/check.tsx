import type { Item, TraceCheck } from '@rouse/core/aircraft';
import { type CheckSnapshot, sayFigure } from '@rouse/core/checks';
import type { MeasuredEntry } from '@rouse/core/procedure';
import { useMemo } from 'react';
import styled from 'styled-components';
import { useAppSelector } from '../../app/store.ts';
import { ChartTitle } from '../frame.tsx';
import type { WatchedRun } from '../../run/run-slice.ts';
import { FigureRows } from './figures.ts';
import { lanesOf } from './lane.ts';
import { Lanes } from './lanes.tsx';

const SECONDS = 60;

const Scrolled = styled.div`
  overflow: auto;
  min-height: 0;
`;

type Check = Extract<Item, { kind: 'measure' }> & { trace: TraceCheck };

/** A check while it is measured: its readings with the window to keep, and its figures as they come. */
export function LiveCheck({ followed, item }: { followed: WatchedRun; item: Check }) {
  const check = useAppSelector((s) => s.run.status?.check);
  const own = check?.item === item.id ? check : null;
  const lanes = useMemo(() => lanesOf(followed.type, item.trace.shows), [followed.type, item]);
  const last = followed.entries.findLast((e): e is MeasuredEntry => e.kind === 'measured' && e.item === item.id);
  return (
    <>
      <ChartTitle title={item.challenge} about="over the last minute" />
      <Lanes
        key={item.id}
        lanes={lanes}
        seconds={SECONDS}
        marks={marksOf(item.trace, own)}
        label={`Readings of the check of ${item.challenge.toLowerCase()} over the last minute; its figures stand below`}
      />
      <ChartTitle title="Measured" about={last && !own?.figures.length ? 'the last time' : 'as it comes'} />
      <FigureTable followed={followed} spec={item.trace} check={own} last={last} />
    </>
  );
}

function marksOf({ stages }: TraceCheck, check: CheckSnapshot | null): { t_s: number; words: string }[] {
  return (check?.marks ?? []).flatMap((t_s, i) => {
    const stage = stages[i];
    return stage && i > 0 ? [{ t_s, words: stage.do.split(',')[0]! }] : [];
  });
}

interface FigureTableProps {
  followed: WatchedRun;
  spec: TraceCheck;
  check: CheckSnapshot | null;
  last: MeasuredEntry | undefined;
}

function FigureTable({ followed, spec, check, last }: FigureTableProps) {
  const fresh = check !== null && check.figures.length > 0;
  const found: Readonly<Record<string, { value: number | null; verdict: string }>> = Object.fromEntries(
    (fresh ? check.figures : (last?.figures ?? [])).map((f) => [f.id, f]),
  );
  return (
    <Scrolled>
      <FigureRows>
        <thead>
          <tr>
            <th>Figure</th>
            <th>Now</th>
            <th>Good</th>
            <th>Usual on {followed.detail.tail}</th>
          </tr>
        </thead>
        <tbody>
          {spec.figures.map((f) => {
            const own = found[f.id];
            const usual = followed.detail.usual[`${spec.check}/${f.id}`];
            const load = f.of === 'load' ? followed.type.electricalLoads.find((l) => l.id === f.load) : undefined;
            return (
              <tr key={f.id} data-verdict={own?.verdict}>
                <td>{f.label}</td>
                <td>
                  {own === undefined ? '–' : own.value === null ? 'unknown' : sayFigure(own.value, f.decimals, f.unit)}
                </td>
                <td>
                  {load
                    ? `about ${load.amps} A`
                    : f.of === 'level' && f.goodBy
                      ? 'by its temperature'
                      : rangeOf(f.good)}
                </td>
                <td>
                  {usual
                    ? `${sayFigure(usual.low, f.decimals, '')} to ${sayFigure(usual.high, f.decimals, '')}`
                    : 'not known yet'}
                </td>
              </tr>
            );
          })}
        </tbody>
      </FigureRows>
    </Scrolled>
  );
}

function rangeOf([low, high]: readonly [number | null, number | null]): string {
  if (low === null) return high === null ? '' : `at most ${high}`;
  return high === null ? `at least ${low}` : `${low} to ${high}`;
}
