import { isWatched, type TypeFile, type WatchedType } from '@rouse/core/aircraft';
import { ATTACHMENT_TYPES, type ExceedanceMessage, MOST_ATTACHMENT_BYTES } from '@rouse/core/contract';
import { skipToken } from '@reduxjs/toolkit/query';
import { useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import styled from 'styled-components';
import { useExceedanceQuery } from '../../app/log-data.ts';
import { serverData, troubleIn, useRunQuery, useTypeQuery } from '../../app/server-data.ts';
import { useChangeMutation, useMay } from '../../app/session-data.ts';
import { useAppDispatch } from '../../app/store.ts';
import { phone } from '../../app/theme.ts';
import { ApiRefusal, postFile } from '../../platform/api.ts';
import { Button, buttonLook, PrimaryButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { Field, Form } from '../../ui/form.tsx';
import { Aid, PREVAILS, Small } from '../../ui/heading.ts';
import { dayAndTime } from '../../ui/words.ts';
import { ExceedanceTrace } from './exceedance-trace.tsx';
import { Card, ListTable, Main, Wide } from './page.tsx';

const Facts = styled.dl`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(100%, 12.5rem), 1fr));
  gap: 10px 26px;
  dt {
    font-size: 0.78125rem;
    color: var(--soft);
  }
  dd {
    margin: 0;
    font-weight: 650;
    font-variant-numeric: tabular-nums;
  }
`;

const Top = styled.div`
  display: flex;
  gap: 10px 20px;
  align-items: center;
  flex-wrap: wrap;
  h1 {
    font-size: 1.25rem;
    font-weight: 700;
    flex: 1 1 20rem;
  }
  a {
    ${buttonLook}
  }
  ${phone} {
    h1 {
      font-size: 1.125rem;
    }
  }
`;

const State = styled.p`
  padding: 10px 14px;
  border-radius: 10px;
  background: var(--deep);
  font-weight: 620;
  &[data-open] {
    background: var(--warning-paper);
    color: var(--warning);
  }
`;

/** One exceedance: what was passed and how, what is asked, what was done, and the release. */
export function ExceedanceView() {
  const { run, seq } = useParams();
  const { currentData: found, error } = useExceedanceQuery({ run: run!, seq: seq! });
  const { data: detail } = useRunQuery(found ? found.run : skipToken);
  const { data: type } = useTypeQuery(detail ? detail.type : skipToken);
  if (error) return <Main><Alert role="alert">{troubleIn(error)}</Alert></Main>; // oxfmt-ignore
  if (!found) return <Main><p role="status">Reading the exceedance…</p></Main>; // oxfmt-ignore
  const { release, record } = found;
  return (
    <Main>
      <title>{`Exceedance of ${found.tail} · Rouse`}</title>
      <Top>
        <h1>
          {found.tail}: {found.title}, {found.detail}
        </h1>
        <Link to={`/debrief/${found.run}`}>The run</Link>
        <a href={`/api/exceedances/${found.run}/${found.seq}/report.pdf`} download>
          Report (PDF)
        </a>
      </Top>
      <State data-open={release ? undefined : ''} role="status">
        {release
          ? `Released by ${release.engineer}, ${dayAndTime(release.at)}.`
          : 'Not released: it holds the next start of this aircraft.'}
        {found.disputed && ' It is disputed.'}
      </State>
      {record.kind === 'exceedance' && type && isWatched(type) && <ExceedanceTrace type={type as WatchedType} record={record} run={found.run} />}
      <Card>
        <Small as="h2">What was passed</Small>
        <FactsOf found={found} type={type} />
        {found.asks && (
          <p>
            <b>The type says:</b> {found.asks}
          </p>
        )}
      </Card>
      <Papers found={found} />
      <Release found={found} />
      <Aid>{PREVAILS}</Aid>
    </Main>
  );
} // oxfmt-ignore

function FactsOf({
  found: { record, pilot, runOpenedAt },
  type,
}: {
  found: ExceedanceMessage;
  type: TypeFile | undefined;
}) {
  const facts: [string, string][] = [['Run', `${dayAndTime(runOpenedAt)}, ${pilot}`]];
  if (record.kind === 'exceedance') {
    const unit = type?.channels.find((c) => c.id === record.channel)?.unit ?? '';
    facts.push(
      ['Edge', `${record.edge} ${unit}`],
      ['Peak', `${record.peak} ${unit}`],
      ['Time past it', `${record.duration_s.toFixed(3)} s`],
      ['Allowed', record.allowed_s === 0 ? 'never' : `${record.allowed_s} s`],
      ['Over it since', `${record.start_s.toFixed(2)} s of the run`],
    );
  }
  return (
    <Facts>
      {facts.map(([name, value]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </Facts>
  );
}

/** What was said, done and attached; anybody who runs an aircraft may dispute, only an engineer writes what was done. */
function Papers({ found }: { found: ExceedanceMessage }) {
  const mayRelease = useMay('release');
  const mayRun = useMay('run');
  const [change, { error }] = useChangeMutation();
  const [disputing, setDisputing] = useState(false);
  const place = `/exceedances/${found.run}/${found.seq}`;
  const rows = [
    ...found.notes.map((n) => ({ id: n.id, at: n.at, by: n.by, what: n.kind === 'disputed' ? `Disputed: ${n.words}` : n.words, href: null as string | null })),
    ...found.attachments.map((a) => ({ id: a.id, at: a.at, by: a.by, what: `${a.name}, ${Math.ceil(a.size / 1024)} kB`, href: `/api/attachments/${a.id}` })),
  ].toSorted((a, b) => a.at.localeCompare(b.at));
  return (
    <Card aria-label="Said, done and attached">
      <Small as="h2">Said, done and attached</Small>
      {rows.length === 0 ? (
        <p>Nothing yet.</p>
      ) : (
        <Wide label="Said, done and attached">
          <ListTable>
            <tbody>
              {rows.map((r) => (
                <tr key={r.id}>
                  <td>{dayAndTime(r.at)}</td>
                  <td>{r.by}</td>
                  <td>{r.href ? <a href={r.href}>{r.what}</a> : r.what}</td>
                </tr>
              ))}
            </tbody>
          </ListTable>
        </Wide>
      )}
      {mayRelease && (
        <Form
          label="What was done"
          error={error}
          onSubmit={async (typed, form) => {
            const answer = await change({ method: 'POST', path: `${place}/notes`, body: { words: typed.text('words') } });
            if (!answer.error) form.reset();
          }}
        >
          <Field name="words" label="What was done" width={44} required maxLength={2000} />
          <Button type="submit">Write it down</Button>
        </Form>
      )}
      {mayRelease && <Attach place={place} />}
      {mayRun && !found.release && !disputing && <Button onPress={() => setDisputing(true)}>The reading was wrong</Button>}
      {disputing && (
        <Form
          label="Dispute"
          error={error}
          onSubmit={async (typed) => {
            const answer = await change({ method: 'POST', path: `${place}/dispute`, body: { words: typed.text('words') } });
            if (!answer.error) setDisputing(false);
          }}
        >
          <Field name="words" label="Why the reading was wrong" width={44} required maxLength={2000} autoFocus hint="It stays open until an engineer releases it, and is never deleted." />
          <Button type="submit">Dispute it</Button>
        </Form>
      )}
    </Card>
  );
} // oxfmt-ignore

function Attach({ place }: { place: string }) {
  const dispatch = useAppDispatch();
  const file = useRef<HTMLInputElement>(null);
  const [words, setWords] = useState<string | null>(null);
  const send = async (chosen: File): Promise<void> => {
    if (chosen.size > MOST_ATTACHMENT_BYTES) {
      setWords(`${chosen.name} is larger than 5 MB: make the photo smaller and attach it again.`);
      return;
    }
    setWords(`Attaching ${chosen.name}…`);
    try {
      await postFile(`${place}/attachments?name=${encodeURIComponent(chosen.name)}`, chosen, chosen.type || 'text/plain');
      setWords(`${chosen.name} is attached.`);
      dispatch(serverData.util.invalidateTags(['log']));
    } catch (failure) {
      if (!(failure instanceof ApiRefusal)) throw failure;
      setWords(`${failure.message} ${failure.remedy}`);
    }
  };
  return (
    <div>
      <input ref={file} type="file" hidden accept={ATTACHMENT_TYPES.join(',')} aria-label="Photo or paper" onChange={(e) => e.target.files?.[0] && void send(e.target.files[0])} />
      <Button onPress={() => file.current?.click()}>Attach a photo or a paper</Button>
      {words !== null && <p role="status">{words}</p>}
    </div>
  );
} // oxfmt-ignore

/** Only an engineer releases: a pilot sees who is waited for. */
function Release({ found }: { found: ExceedanceMessage }) {
  const mayRelease = useMay('release');
  const [change, { error }] = useChangeMutation();
  if (found.release)
    return (
      <Card>
        <Small as="h2">Release</Small>
        <p>{found.release.found}</p>
      </Card>
    );
  if (!mayRelease)
    return (
      <Card>
        <Small as="h2">Release</Small>
        <p>An engineer who has looked releases it, by name. Until then the aircraft is held.</p>
      </Card>
    );
  return (
    <Card>
      <Small as="h2">Release</Small>
      <Form
        label="Release"
        error={error}
        onSubmit={(typed) => void change({ method: 'POST', path: `/exceedances/${found.run}/${found.seq}/release`, body: { found: typed.text('found') } })}
      >
        <Field name="found" label="What was found and done" width={60} required maxLength={2000} hint="It stands under your name in the record, and lets the next start go on." />
        <PrimaryButton type="submit">Release it</PrimaryButton>
      </Form>
    </Card>
  );
} // oxfmt-ignore
