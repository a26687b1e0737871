import { isWatched, type TypeFile } from '@rouse/core/aircraft';
import type { Debrief } from '@rouse/core/contract';
import { type MeasuredEntry, reduceRun } from '@rouse/core/procedure';
import { decodeChunk, type Trace } from '@rouse/core/trace';
import type { Corridor } from '@rouse/core/watch';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import styled from 'styled-components';
import { phone, upright } from '../../app/theme.ts';
import { buttonLook, SlimButton } from '../../ui/button.tsx';
import { Columns, PageHead } from '../../ui/columns.ts';
import { PREVAILS } from '../../ui/heading.ts';
import { dayAndTime, sourceInWords } from '../../ui/words.ts';
import { getBytes, getJson } from '../../platform/api.ts';
import { unwireCorridors } from '../../run/run-slice.ts';
import { AgainstUsual } from './against-usual.tsx';
import { CheckWindow } from './check-window.tsx';
import { ChecksColumn } from './checks-column.tsx';
import { Journal } from './journal.tsx';
import { Kept } from './kept.tsx';
import { StartDrawing } from './start-drawing.tsx';
import { WholeRun } from './whole-run.tsx';

const Grid = styled(Columns)`
  ${upright} {
    grid-template: auto auto minmax(0, 1fr) auto / minmax(0, 1fr) var(--right);
    grid-template-areas: 'head head' 'mid mid' 'left right' 'foot foot';
    height: 100%;
    overflow: visible;
  }
  ${phone} {
    grid-template: auto auto auto auto auto / minmax(0, 1fr);
    grid-template-areas: 'head' 'right' 'mid' 'left' 'foot';
    overflow: auto;
  }
`;

const Header = styled(PageHead)`
  > div {
    min-width: 0;
  }
  > div:nth-child(2) {
    flex: 1;
  }
  h2 {
    font-size: 17px;
    font-weight: 600;
    line-height: 1.25;
  }
  p {
    font-size: 13px;
    color: var(--soft);
  }
  nav {
    display: flex;
    gap: 8px;
  }
  nav a {
    ${buttonLook}
    min-height: 40px;
  }
  ${upright} {
    flex-wrap: wrap;
  }
`;

const Mid = styled.section`
  grid-area: mid;
  padding: 14px 16px;
  display: grid;
  grid-template-rows: auto minmax(0, 5fr) auto minmax(0, 3fr);
  gap: 10px;
  min-height: 0;
  ${upright} {
    grid-template-rows: auto 300px auto 190px;
  }
`;

const Choice = styled.div`
  display: flex;
  gap: 8px;
  margin-bottom: 12px;
`;

const Message = styled.main`
  padding: 40px;
`;

interface Loaded {
  debrief: Debrief;
  type: TypeFile;
  trace: Trace;
  corridors: Record<string, Corridor | null>;
}

/** Enough points for any screen; the whole trace is one button away. */
const POINTS = 6000;

async function load(run: string): Promise<Loaded> {
  const debrief = await getJson<Debrief>(`/runs/${run}/debrief`);
  const [type, bytes] = await Promise.all([
    getJson<TypeFile>(`/types/${debrief.run.type.id}/${debrief.run.type.version}`),
    getBytes(`/runs/${run}/trace?points=${POINTS}`),
  ]);
  return {
    debrief,
    type,
    trace: decodeChunk(
      bytes,
      type.channels.map((c) => c.id),
    ),
    corridors: unwireCorridors(debrief.corridors),
  };
}

export function DebriefView() {
  const { run } = useParams();
  const [loaded, setLoaded] = useState<Loaded | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [chosen, setChosen] = useState<number | null>(null);
  const [aside, setAside] = useState<'start' | 'checks'>('start');
  const [chosenCheck, setChosenCheck] = useState<number | null>(null);
  const reload = useCallback(() => {
    load(run!)
      .then(setLoaded)
      .catch((error: unknown) => setFailure(error instanceof Error ? error.message : String(error)));
  }, [run]);
  useEffect(reload, [reload]);
  const state = useMemo(() => (loaded ? reduceRun(loaded.debrief.run.entries) : null), [loaded]);

  if (failure !== null) {
    return (
      <Message>
        <h1>This run cannot be read back</h1>
        <p role="alert">{failure}</p>
        <Link to="/debrief">All runs</Link>
      </Message>
    );
  }
  if (!loaded || !state) return <Message role="status">Reading the run…</Message>;
  const { debrief, type, trace, corridors } = loaded;
  const start = debrief.starts[chosen ?? debrief.starts.length - 1];
  const checks = debrief.run.entries.filter((e): e is MeasuredEntry => e.kind === 'measured');
  const check = checks.find((e) => e.seq === chosenCheck) ?? checks.find((e) => e.verdict !== 'good') ?? checks[0];
  const choice = checks.length > 0 && (
    <Choice>
      {(['start', 'checks'] as const).map((one) => (
        <SlimButton key={one} aria-pressed={aside === one} onPress={() => setAside(one)}>
          {one === 'start' ? 'Start' : `Checks, ${checks.length}`}
        </SlimButton>
      ))}
    </Choice>
  );
  return (
    <Grid>
      <title>{`Debrief ${debrief.run.tail} · Rouse`}</title>
      <Header>
        <div>
          <h1>{debrief.run.tail}</h1>
          <p>
            {dayAndTime(debrief.run.openedAt)} · {debrief.run.pilot}
            {sourceInWords(debrief.run.source) && ` · ${sourceInWords(debrief.run.source)}`}
          </p>
        </div>
        <div>
          <h2>{debrief.verdict}</h2>
          <p>
            {debrief.details} · {debrief.run.conditions}
          </p>
        </div>
        <nav aria-label="Exports">
          <a href={`/api/runs/${debrief.run.run}/trace.csv`} download>
            Trace
          </a>
          <a href={`/api/runs/${debrief.run.run}/bundle.json`} download>
            Bundle
          </a>
        </nav>
      </Header>
      <Journal type={type} entries={debrief.run.entries} start={start} />
      <Mid aria-label="Drawings">
        {isWatched(type) && debrief.run.source !== 'by-hand' ? (
          <>
            {aside === 'checks' && check ? (
              <CheckWindow type={type} trace={trace} entries={debrief.run.entries} measured={check} />
            ) : (
              <StartDrawing
                type={type}
                trace={trace}
                corridors={corridors}
                starts={debrief.starts}
                start={start}
                choose={setChosen}
              />
            )}
            <WholeRun type={type} state={state} trace={trace} />
          </>
        ) : (
          <p>This run was worked by hand: there is no trace to draw. The journal has every line of it.</p>
        )}
      </Mid>
      {aside === 'checks' ? (
        <ChecksColumn
          type={type}
          checks={checks}
          shown={check}
          usual={debrief.run.usual}
          choose={(entry) => setChosenCheck(entry.seq)}
        >
          {choice}
        </ChecksColumn>
      ) : (
        <AgainstUsual start={start} booking={debrief.booking}>
          {choice}
        </AgainstUsual>
      )}
      <Kept debrief={debrief} prevails={PREVAILS} onNoted={reload} />
    </Grid>
  );
}
