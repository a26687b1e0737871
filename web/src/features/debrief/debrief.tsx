import { isWatched } from '@rouse/core/aircraft';
import type { Debrief } from '@rouse/core/contract';
import { type MeasuredEntry, reduceRun } from '@rouse/core/procedure';
import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import styled from 'styled-components';
import { serverData } from '../../app/server-data.ts';
import { useAppDispatch } from '../../app/store.ts';
import { phone, upright } from '../../app/theme.ts';
import { buttonLook, SlimButton } from '../../ui/button.tsx';
import { Columns, PageHead } from '../../ui/columns.ts';
import { inputLook } from '../../ui/field-look.ts';
import { PREVAILS } from '../../ui/heading.ts';
import { dayAndTime, outcomeInWords, sourceInWords } from '../../ui/words.ts';
import { AgainstUsual } from './against-usual.tsx';
import { CheckWindow } from './check-window.tsx';
import { ChecksColumn } from './checks-column.tsx';
import { Kept } from './kept.tsx';
import type { OtherStart } from './other-start.ts';
import { StartDrawing } from './start-drawing.tsx';
import { StoryColumn } from './story.tsx';
import { WhatIfOfStart } from './what-if-of-start.tsx';
import { type RunRecord, useRunRecord } from './use-run-record.ts';
import { WholeRun } from './whole-run.tsx';

const Grid = styled(Columns)`
  ${upright} {
    grid-template: repeat(4, max-content) / minmax(0, 1fr) var(--right);
    grid-template-areas: 'head head' 'mid mid' 'left right' 'foot foot';
  }
  ${phone} {
    grid-template: repeat(5, max-content) / minmax(0, 1fr);
    grid-template-areas: 'head' 'right' 'mid' 'left' 'foot';
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
    font-size: 0.9375rem;
    font-weight: 620;
    line-height: 1.2;
  }
  p {
    font-size: 0.8125rem;
    color: var(--soft);
  }
  nav {
    display: flex;
    gap: 8px;
  }
  nav a {
    ${buttonLook}
    min-height: 2.5rem;
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
    grid-template-rows: auto 18.75rem auto 11.875rem;
  }
`;

const Beside = styled.label`
  display: flex;
  align-items: center;
  gap: 6px;
  font-size: 0.8125rem;
  color: var(--soft);
  ${inputLook}
  select {
    min-height: 2.5rem;
    max-width: 9.375rem;
  }
`;

const Choice = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  margin-bottom: 12px;
`;

const Message = styled.main`
  padding: 40px;
`;

/** A run read back: the verdict, what mattered, its start on its usual range, the whole of it. */
export function DebriefView() {
  const { run } = useParams();
  const dispatch = useAppDispatch();
  const { loaded, failure } = useRunRecord(run!);
  const [chosen, setChosen] = useState<number | null>(null);
  const [beside, setBeside] = useState<string | null>(null);
  const [at_s, setAt_s] = useState<number | null>(null);
  const other = useRunRecord(beside).loaded;
  const [aside, setAside] = useState<Aside>('start');
  const [chosenCheck, setChosenCheck] = useState<number | null>(null);
  const state = useMemo(() => (loaded ? reduceRun(loaded.debrief.run.entries) : null), [loaded]);

  if (failure !== null) return <Unreadable failure={failure} />;
  if (!loaded || !state) return <Message role="status">Reading the run…</Message>;
  const { debrief, type, trace, corridors } = loaded;
  const start = debrief.starts[chosen ?? debrief.starts.length - 1];
  const checks = debrief.run.entries.filter((e): e is MeasuredEntry => e.kind === 'measured');
  const check = checks.find((e) => e.seq === chosenCheck) ?? checks.find((e) => e.verdict !== 'good') ?? checks[0];
  const asides: [Aside, string][] = [
    ['start', 'Start'],
    ...(checks.length > 0 ? [['checks', `Checks, ${checks.length}`] as [Aside, string]] : []),
    ...(start && debrief.run.source !== 'by-hand' ? [['what-if', 'What if…'] as [Aside, string]] : []),
  ];
  const choice = asides.length > 1 && <Asides all={asides} shown={aside} show={setAside} />;
  return (
    <Grid>
      <title>{`Debrief ${debrief.run.tail} · Rouse`}</title>
      <RunHead debrief={debrief} beside={beside} lay={setBeside} />
      <StoryColumn type={type} debrief={debrief} start={start} at_s={at_s} look={setAt_s} />
      <Mid aria-label="Drawings">
        {isWatched(type) && debrief.run.source !== 'by-hand' ? (
          <>
            {aside === 'what-if' && start ? (
              <WhatIfOfStart key={`${start.watch}/${start.attempt}`} run={debrief.run.run} start={start} />
            ) : aside === 'checks' && check ? (
              <CheckWindow type={type} trace={trace} entries={debrief.run.entries} measured={check} />
            ) : (
              <StartDrawing
                type={type}
                trace={trace}
                corridors={corridors}
                starts={debrief.starts}
                start={start}
                choose={setChosen}
                other={other && start ? otherStart(other, start) : null}
              />
            )}
            <WholeRun type={type} state={state} trace={trace} at_s={at_s} moments={debrief.story.moments} />
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
      <Kept
        debrief={debrief}
        prevails={PREVAILS}
        about_s={at_s}
        onNoted={() => dispatch(serverData.util.invalidateTags(['debrief']))}
      />
    </Grid>
  );
}

type Aside = 'start' | 'checks' | 'what-if';

function Asides({ all, shown, show }: { all: readonly [Aside, string][]; shown: Aside; show: (one: Aside) => void }) {
  return (
    <Choice>
      {all.map(([one, words]) => (
        <SlimButton key={one} aria-pressed={shown === one} onPress={() => show(one)}>
          {words}
        </SlimButton>
      ))}
    </Choice>
  );
}

function Unreadable({ failure }: { failure: string }) {
  return (
    <Message>
      <h1>This run cannot be read back</h1>
      <p role="alert">{failure}</p>
      <Link to="/log/runs">All runs</Link>
    </Message>
  );
}

/** The same start of another run; its first attempt where that one had fewer. */
function otherStart({ debrief, trace }: RunRecord, start: Debrief['starts'][number]): OtherStart | null {
  const found =
    debrief.starts.find((s) => s.watch === start.watch && s.attempt === start.attempt) ??
    debrief.starts.find((s) => s.watch === start.watch);
  return found ? { features: found.features, trace, words: dayAndTime(debrief.run.openedAt) } : null;
}

function RunHead({
  debrief: { run, verdict, details, others },
  beside,
  lay,
}: {
  debrief: Debrief;
  beside: string | null;
  lay: (run: string | null) => void;
}) {
  return (
    <Header>
      <div>
        <h1>{run.tail}</h1>
        <p>
          {dayAndTime(run.openedAt)} · {run.pilot}
          {sourceInWords(run.source) && ` · ${sourceInWords(run.source)}`}
        </p>
      </div>
      <div>
        <h2 title={verdict}>{verdict}</h2>
        <p>
          {details} · {run.conditions}
        </p>
      </div>
      {others.length > 0 && (
        <Beside>
          Beside
          <select value={beside ?? ''} onChange={(e) => lay(e.target.value || null)}>
            <option value="">no other run</option>
            {others.map((o) => (
              <option key={o.run} value={o.run}>
                {dayAndTime(o.openedAt)}, {outcomeInWords(o.outcome).toLowerCase()}
              </option>
            ))}
          </select>
        </Beside>
      )}
      <nav aria-label="Exports">
        <a href={`/api/runs/${run.run}/trace.csv`} download>
          Trace
        </a>
        <a href={`/api/runs/${run.run}/bundle.json`} download>
          Bundle
        </a>
        <a href={`/api/runs/${run.run}/report.pdf`} download>
          Report
        </a>
      </nav>
    </Header>
  );
}
