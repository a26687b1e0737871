import type { BooksMessage } from '@rouse/core/contract';
import { useState } from 'react';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { useBooksQuery } from '../../app/log-data.ts';
import { troubleIn } from '../../app/server-data.ts';
import { useChangeMutation, useMay } from '../../app/session-data.ts';
import { Button, buttonLook, PrimaryButton, SlimButton } from '../../ui/button.tsx';
import { Alert } from '../../ui/field-look.ts';
import { Choice, Field, Form, Tick } from '../../ui/form.tsx';
import { Small } from '../../ui/heading.ts';
import { dayAndTime } from '../../ui/words.ts';
import { Card, ListTable, Main, Wide } from './page.tsx';
import { useThisMonth } from './this-month.ts';

const Way = styled.nav`
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
  a {
    ${buttonLook}
  }
`;

/** Hours, starts and cycles of one tail; what they began with, what was put right, and what falls due. */
export function BooksView() {
  const { aircraft } = useParams();
  const { currentData: books, error } = useBooksQuery(aircraft!);
  const mayWrite = useMay('release');
  if (error) return <Main><Alert role="alert">{troubleIn(error)}</Alert></Main>; // oxfmt-ignore
  if (!books) return <Main><p role="status">Reading the books…</p></Main>; // oxfmt-ignore
  return (
    <Main>
      <title>Books · Rouse</title>
      <Due books={books} aircraft={aircraft!} mayWrite={mayWrite} />
      <Accounts books={books} aircraft={aircraft!} mayWrite={mayWrite} />
      <Written books={books} />
    </Main>
  );
}

interface Part {
  books: BooksMessage;
  aircraft: string;
  mayWrite: boolean;
}

const amount = (value: number, unit: string): string =>
  unit === 'h' ? value.toFixed(2) : String(Math.round(value * 100) / 100);

function Accounts({ books, aircraft, mayWrite }: Part) {
  const [writing, setWriting] = useState(false);
  const month = useThisMonth();
  const months = [...new Set(books.book.lines.flatMap((l) => l.months.map((m) => m.month)))].toSorted().toReversed().slice(0, 3);
  return (
    <Card aria-label="Accounts">
      <Small as="h2">Accounts, from {books.book.runs} runs</Small>
      <Wide label="Accounts">
        <ListTable>
          <thead>
            <tr>
              <th scope="col">Account</th>
              {months.map((m) => (
                <th key={m} scope="col" data-number>{m}</th>
              ))}
              <th scope="col" data-number>Began with</th>
              <th scope="col" data-number>Flown</th>
              <th scope="col" data-number>Corrected</th>
              <th scope="col" data-number>Total</th>
            </tr>
          </thead>
          <tbody>
            {books.book.lines.map(({ account, opening, flown, corrected, total, months: its }) => (
              <tr key={account.id}>
                <td>{account.label}</td>
                {months.map((m) => (
                  <td key={m} data-number>{amount(its.find((x) => x.month === m)?.amount ?? 0, account.unit)}</td>
                ))}
                <td data-number>{opening === null ? '–' : amount(opening, account.unit)}</td>
                <td data-number>{amount(flown, account.unit)}</td>
                <td data-number>{corrected === 0 ? '–' : amount(corrected, account.unit)}</td>
                <td data-number><b>{amount(total, account.unit)}</b></td>
              </tr>
            ))}
          </tbody>
        </ListTable>
      </Wide>
      <Way aria-label="Take along">
        <a href={`/api/aircraft/${aircraft}/books.csv`} download>Books (CSV)</a>
        <a href={`/api/aircraft/${aircraft}/month.pdf?month=${month}`} download>This month (PDF)</a>
        {mayWrite && !writing && <Button onPress={() => setWriting(true)}>Open or correct an account</Button>}
      </Way>
      {writing && <Write books={books} aircraft={aircraft} done={() => setWriting(false)} />}
    </Card>
  );
} // oxfmt-ignore

function Write({ books, aircraft, done }: { books: BooksMessage; aircraft: string; done: () => void }) {
  const [change, { error }] = useChangeMutation();
  return (
    <Form
      label="Opening value or correction"
      error={error}
      onSubmit={async (typed) => {
        const body = { kind: typed.text('kind'), account: typed.text('account'), amount: typed.number('amount'), reason: typed.text('reason') };
        const answer = await change({ method: 'POST', path: `/aircraft/${aircraft}/books`, body });
        if (!answer.error) done();
      }}
    >
      <Choice name="kind" label="What it is" options={[{ value: 'opening', label: 'what it began with' }, { value: 'correction', label: 'a correction' }]} />
      <Choice name="account" label="Account" options={books.book.lines.map((l) => ({ value: l.account.id, label: l.account.label }))} />
      <Field name="amount" label="Amount" decimal required width={10} hint="a correction is added; less is −" />
      <Field name="reason" label="Why, and from where" required width={34} maxLength={500} />
      <PrimaryButton type="submit">Write it</PrimaryButton>
    </Form>
  );
} // oxfmt-ignore

const STATE = { ahead: undefined, soon: 'caution', past: 'warning', unknown: 'warning' } as const;

function Due({ books, aircraft, mayWrite }: Part) {
  const [setting, setSetting] = useState(false);
  const [finishing, setFinishing] = useState<string | null>(null);
  const [change, { error }] = useChangeMutation();
  return (
    <Card aria-label="Due">
      <Small as="h2">Due</Small>
      {books.due.length === 0 && <p>Nothing is set.</p>}
      {books.due.length > 0 && (
        <Wide label="Due">
          <ListTable>
            <tbody>
              {books.due.map((d) => (
                <tr key={d.id}>
                  <td><b>{d.title}</b></td>
                  <td data-weight={STATE[d.now.state]}>{d.now.words}</td>
                  <td>{d.holds ? 'holds the next start when it is past' : 'a word of caution when it is past'}</td>
                  <td>set by {d.setBy}</td>
                  <td>{mayWrite && <SlimButton onPress={() => setFinishing(d.id)}>It is done</SlimButton>}</td>
                </tr>
              ))}
            </tbody>
          </ListTable>
        </Wide>
      )}
      {finishing !== null && (
        <Form
          label="It is done"
          error={error}
          onSubmit={async (typed) => {
            const answer = await change({ method: 'POST', path: `/due/${finishing}/done`, body: { words: typed.text('words') } });
            if (!answer.error) setFinishing(null);
          }}
        >
          <Field name="words" label="What was done" width={44} required maxLength={2000} autoFocus />
          <PrimaryButton type="submit">Write it down</PrimaryButton>
        </Form>
      )}
      {mayWrite && !setting && <div><Button onPress={() => setSetting(true)}>Set something due</Button></div>}
      {setting && <SetDue books={books} aircraft={aircraft} done={() => setSetting(false)} />}
    </Card>
  );
} // oxfmt-ignore

function SetDue({ books, aircraft, done }: { books: BooksMessage; aircraft: string; done: () => void }) {
  const [change, { error }] = useChangeMutation();
  return (
    <Form
      label="Due"
      error={error}
      onSubmit={async (typed) => {
        const at = typed.number('amount');
        const body = { title: typed.text('title'), account: at === null ? null : typed.text('account'), amount: at, onDay: typed.maybe('onDay'), holds: typed.ticked('holds').length > 0 };
        const answer = await change({ method: 'POST', path: `/aircraft/${aircraft}/due`, body });
        if (!answer.error) done();
      }}
    >
      <Field name="title" label="What" required width={26} maxLength={120} />
      <Choice name="account" label="By account" options={books.book.lines.map((l) => ({ value: l.account.id, label: `${l.account.label}, now ${amount(l.total, l.account.unit)}` }))} />
      <Field name="amount" label="Due at" decimal width={10} hint="leave empty for a day only" />
      <Field name="onDay" label="Or on" width={12} hint="year-month-day" />
      <Tick name="holds" label="Past, it holds the next start" on />
      <PrimaryButton type="submit">Set it</PrimaryButton>
    </Form>
  );
} // oxfmt-ignore

/** What people wrote into the books. */
function Written({ books }: { books: BooksMessage }) {
  const label = (id: string): string => books.book.lines.find((l) => l.account.id === id)?.account.label ?? id;
  const rows = [
    ...books.entries.map((e) => ({ id: e.id, at: e.at, by: e.by, words: `${label(e.account)}: ${e.kind === 'opening' ? 'began with' : 'corrected by'} ${e.amount}. ${e.reason}` })),
    ...books.maintenance.map((m) => ({ id: m.id, at: m.at, by: m.by, words: m.words })),
  ].toSorted((a, b) => b.at.localeCompare(a.at));
  if (rows.length === 0) return null;
  return (
    <Card aria-label="Written by people">
      <Small as="h2">Written by people</Small>
      <Wide label="Written by people">
        <ListTable>
          <tbody>
            {rows.map((r) => (
              <tr key={r.id}>
                <td>{dayAndTime(r.at)}</td>
                <td>{r.by}</td>
                <td>{r.words}</td>
              </tr>
            ))}
          </tbody>
        </ListTable>
      </Wide>
    </Card>
  );
} // oxfmt-ignore
