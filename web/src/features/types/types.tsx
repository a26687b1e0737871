import type { Today, TypeVersion } from '@rouse/core/contract';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import styled from 'styled-components';
import {
  troubleIn,
  useBeginDraftMutation,
  useDraftsQuery,
  useMoveTailMutation,
  useTodayQuery,
  useTypesQuery,
} from '../../app/server-data.ts';
import { Button, SlimButton } from '../../ui/button.tsx';
import { Aid, PREVAILS } from '../../ui/heading.ts';
import { useMay } from '../../app/session-data.ts';
import { BeginNew } from './begin-new.tsx';
import { NewTail } from './new-tail.tsx';

const Page = styled.main`
  overflow: auto;
  padding: 22px 26px;
  display: grid;
  gap: 16px;
  align-content: start;
`;

const Cards = styled.ul`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(min(18.75rem, 100%), 1fr));
  gap: 16px;
  > li {
    background: var(--sheet);
    border: 1px solid var(--line);
    border-radius: 14px;
    padding: 16px 18px;
  }
  h2 {
    font-size: 1.25rem;
    font-weight: 720;
  }
  p {
    color: var(--soft);
    font-size: 0.875rem;
    margin-bottom: 8px;
  }
  a {
    display: inline-block;
    padding: 12px 14px 12px 0;
  }
  div {
    display: flex;
    gap: 8px;
    flex-wrap: wrap;
    align-items: center;
  }
  dl {
    display: grid;
    grid-template-columns: auto 1fr auto;
    gap: 6px 12px;
    align-items: center;
    font-size: 0.875rem;
    margin: 8px 0;
  }
  dt {
    font-weight: 650;
  }
  dd {
    margin: 0;
    color: var(--soft);
  }
`;

/** Every type: its tails with the version that each flies, and the way to write on it. */
export function TypesView() {
  const { data: types, error } = useTypesQuery();
  const { data: today } = useTodayQuery();
  const { data: drafts } = useDraftsQuery();
  const failure = troubleIn(error);
  const mayDraft = useMay('draft');
  const newest = types?.filter((t) => !types.some((o) => o.id === t.id && o.version > t.version)) ?? [];
  return (
    <Page>
      <title>Types · Rouse</title>
      <h1>Types</h1>
      {failure !== null && <p role="alert">{failure}</p>}
      {!types && failure === null && <p role="status">Reading the types…</p>}
      <Cards>
        {newest.map((t) => (
          <TypeCard
            key={t.id}
            type={t}
            versions={types!.filter((o) => o.id === t.id)}
            tails={today?.aircraft.filter((a) => a.type.id === t.id) ?? []}
            draft={drafts?.find((d) => d.typeId === t.id)?.draft}
          />
        ))}
        {drafts
          ?.filter((d) => !newest.some((t) => t.id === d.typeId))
          .map((d) => (
            <li key={d.draft} data-type={d.typeId}>
              <h2>{d.name}</h2>
              <p>Being written; nothing flies it yet.</p>
              <Link to={`/types/drafts/${d.draft}`}>Write on</Link>
            </li>
          ))}
      </Cards>
      {mayDraft && <BeginNew types={newest} />}
      <Aid>{PREVAILS}</Aid>
    </Page>
  );
}

interface CardProps {
  type: TypeVersion;
  versions: readonly TypeVersion[];
  tails: Today['aircraft'];
  draft: string | undefined;
}

function TypeCard({ type, versions, tails, draft }: CardProps) {
  const [open, setOpen] = useState(false);
  const [adding, setAdding] = useState(false);
  const [begin, { error }] = useBeginDraftMutation();
  const [move, moved] = useMoveTailMutation();
  const navigate = useNavigate();
  const mayDraft = useMay('draft');
  const mayAdminister = useMay('administer');
  const write = async (): Promise<void> => {
    const found =
      draft ??
      (
        await begin({ like: type.id })
          .unwrap()
          .catch(() => null)
      )?.draft;
    if (found) await navigate(`/types/drafts/${found}`);
  };
  const trouble = troubleIn(error) ?? troubleIn(moved.error);
  return (
    <li data-type={type.id}>
      <h2>{type.name}</h2>
      <p>{type.role}</p>
      <dl>
        {tails.map((a) => (
          <Tail
            key={a.tail}
            tail={a}
            newest={type.version}
            move={(version) => void move({ type: type.id, aircraft: a.aircraft, version })}
          />
        ))}
      </dl>
      {trouble !== null && <p role="alert">{trouble}</p>}
      <div>
        <Link to={`/types/${type.id}/${type.version}`}>Read version {type.version}</Link>
        {versions.length > 1 && (
          <SlimButton aria-expanded={open} onPress={() => setOpen(!open)}>
            Versions
          </SlimButton>
        )}
        {mayDraft && <Button onPress={() => void write()}>{draft ? 'Write on' : 'Change'}</Button>}
        {mayAdminister && (
          <SlimButton aria-expanded={adding} onPress={() => setAdding(!adding)}>
            Add a tail
          </SlimButton>
        )}
      </div>
      {adding && <NewTail type={type.id} version={type.version} done={() => setAdding(false)} />}
      {open &&
        versions
          .filter((o) => o.version < type.version)
          .map((o) => (
            <Link key={o.version} to={`/types/${type.id}/${type.version}?against=${o.version}`}>
              what changed since {o.version}
            </Link>
          ))}
    </li>
  );
}

interface TailProps {
  tail: Today['aircraft'][number];
  newest: number;
  move: (version: number) => void;
}

function Tail({ tail, newest, move }: TailProps) {
  const { version } = tail.type;
  const mayAdminister = useMay('administer');
  const to = version < newest ? newest : version - 1;
  return (
    <>
      <dt>{tail.tail}</dt>
      <dd>
        version {version}
        {tail.openRun === null ? '' : ', a run is open'}
      </dd>
      {newest > 1 && mayAdminister && (
        <SlimButton isDisabled={tail.openRun !== null} onPress={() => move(to)}>
          {version < newest ? `Fly version ${newest}` : `Back to ${to}`}
        </SlimButton>
      )}
    </>
  );
}
