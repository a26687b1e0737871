import { memo, type ReactNode, useMemo, useState } from 'react';
import { useParams } from 'react-router';
import styled from 'styled-components';
import { narrower } from '../../../app/theme.ts';
import { saveFile } from '../../../platform/save-file.ts';
import { SlimButton } from '../../../ui/button.tsx';
import { packFolder } from '../folder-file.ts';
import { Changes } from './changes.tsx';
import { ChartSide } from './chart-side.tsx';
import { EnvelopeSide } from './envelope-side.tsx';
import { Footer } from './footer.tsx';
import { FormEditor } from './form-editor.tsx';
import { Guide } from './guide.tsx';
import { LegEditor } from './leg-editor.tsx';
import { LimitsSide } from './limits-side.tsx';
import { Nav } from './nav.tsx';
import type { Open } from './open.ts';
import { linesOf, type Part, partsOf } from './parts.ts';
import { Preview } from './preview.tsx';
import { TableEditor } from './table-editor.tsx';
import { TextEditor } from './text-editor.tsx';
import { TrialView } from './trial.tsx';
import { type DraftDesk, useDraft } from './use-draft.ts';
import { useSteady } from './use-steady.ts';

const Page = styled.main`
  display: grid;
  grid-template: auto auto minmax(0, 1fr) auto / 11.875rem minmax(0, 1fr) 18.75rem;
  grid-template-areas: 'head head head' 'guide guide guide' 'nav mid side' 'foot foot foot';
  min-height: 0;
  min-width: 0;
  &[data-side='none'] {
    grid-template-columns: 11.875rem minmax(0, 1fr) 0;
  }
  ${narrower(68.75)} {
    grid-template: auto auto auto minmax(18.75rem, 1fr) auto auto / minmax(0, 1fr);
    grid-template-areas: 'head' 'guide' 'nav' 'mid' 'side' 'foot';
    overflow: auto;
  }
`;

const Head = styled.header`
  grid-area: head;
  display: flex;
  gap: 8px 20px;
  align-items: center;
  flex-wrap: wrap;
  padding: 10px 20px;
  background: var(--sheet);
  border-bottom: 1px solid var(--line);
  h1 {
    font-size: 1.25rem;
    font-weight: 720;
    line-height: 1.12;
  }
  p {
    font-size: 0.8125rem;
    color: var(--soft);
  }
  > :last-child {
    margin-left: auto;
    display: flex;
    gap: 8px;
  }
`;

const Badge = styled.span`
  border: 1.5px dashed var(--now);
  color: var(--now);
  border-radius: 9px;
  padding: 4px 10px;
  font-weight: 650;
  font-size: 0.84375rem;
  background: var(--now-paper);
`;

const Middle = styled.section`
  grid-area: mid;
  min-width: 0;
  min-height: 0;
  overflow: auto;
  background: var(--paper);
`;

const Told = styled.div`
  margin: 10px 14px;
  padding: 10px 12px;
  border-radius: 10px;
  background: var(--caution-paper);
  color: var(--caution);
  display: flex;
  gap: 8px 12px;
  align-items: center;
  flex-wrap: wrap;
`;

/** A type that is written here: its parts, one of them open, how the pilot will see it, and what is wrong with it. */
export function TypeEditor() {
  const { draft = '' } = useParams();
  const desk = useDraft(draft);
  const parts = useMemo(() => partsOf(desk.folder, desk.compiled), [desk.folder, desk.compiled]);
  const lines = useMemo(() => linesOf(parts, desk.folder, desk.compiled), [parts, desk.folder, desk.compiled]);
  const [open, setOpen] = useState<Open>({ file: 'limits.csv' });
  const [item, setItem] = useState<number | null>(null);
  const { row, kept, trouble, undo, compiled } = desk;
  const exportIt = useSteady(() => saveFile(packFolder(desk.folder), `${row?.typeId}-${row?.version}.zip`));
  if (!row) return <Page>{trouble ? <p role="alert">{trouble}</p> : <p role="status">Reading the draft…</p>}</Page>; // oxfmt-ignore
  const part = typeof open === 'string' ? null : parts.find((p) => p.file === open.file);
  const side = part && sideOf(part, desk, item);
  return (
    <Page data-side={side ? undefined : 'none'}>
      <title>{`${row.name}, draft · Rouse`}</title>
      <DraftHead
        row={row}
        name={compiled?.type?.name ?? row.name}
        kept={kept}
        trouble={trouble}
        undo={undo}
        exportIt={exportIt}
      />
      {row.basedOn === null && <Guide desk={desk} open={open} setOpen={setOpen} />}
      <Nav lines={lines} open={open} setOpen={setOpen} />
      <Middle aria-label={part?.label ?? (open === 'trial' ? 'Try it' : 'What has changed')}>
        <ConflictLine desk={desk} />
        {open === 'changes' && <Changes desk={desk} />}
        {open === 'trial' && <TrialView desk={desk} />}
        {typeof open !== 'string' && part && (
          <PartEditor key={part.file} part={part} desk={desk} line={open.line} showItem={setItem} />
        )}
      </Middle>
      {side}
      <Footer desk={desk} setOpen={setOpen} />
    </Page>
  );
}

/** What stands beside a part: what it will look like, drawn from what is written. */
function sideOf(part: Part, desk: DraftDesk, item: number | null): ReactNode {
  if (part.as === 'leg') return <Preview desk={desk} item={item} />;
  if (part.file.startsWith('charts/')) return <ChartSide text={desk.folder[part.file] ?? ''} />;
  if (part.file === 'limits.csv') return <LimitsSide type={desk.compiled?.type ?? null} />;
  if (part.file === 'loading.yaml') return <EnvelopeSide desk={desk} locked={desk.row?.status !== 'open'} />;
  return null;
}

interface PartProps {
  part: Part;
  desk: DraftDesk;
  line: number | undefined;
  showItem: (item: number | null) => void;
}

function PartEditor({ part, desk, line, showItem }: PartProps) {
  const [asText, setAsText] = useState(false);
  const locked = desk.row?.status !== 'open';
  const toggle = (
    <SlimButton aria-pressed={asText} onPress={() => setAsText(!asText)}>
      As text
    </SlimButton>
  );
  if (asText) return <TextEditor part={part} desk={desk} line={line} locked={locked} extra={toggle} />; // oxfmt-ignore
  if (part.as === 'form') return <FormEditor part={part} desk={desk} line={line} locked={locked} extra={toggle} />;
  if (part.as === 'table') return <TableEditor part={part} desk={desk} line={line} locked={locked} extra={toggle} />;
  return <LegEditor part={part} desk={desk} line={line} locked={locked} extra={toggle} showItem={showItem} />;
}

interface HeadProps extends Pick<DraftDesk, 'kept' | 'trouble' | 'undo'> {
  row: NonNullable<DraftDesk['row']>;
  name: string;
  exportIt: () => void;
}

const DraftHead = memo(({ row, name, kept, trouble, undo, exportIt }: HeadProps) => {
  const { typeId, version, basedOn, status } = row;
  const words = kept ? `kept ${kept.at.slice(11, 16)} UTC by ${kept.by}` : 'being kept…';
  const flies = basedOn === null ? 'Nothing flies it until it is released.' : `Version ${basedOn} flies on until this is released.`; // oxfmt-ignore
  return (
    <Head>
      <div>
        <h1>{name}</h1>
        <p>
          Types › {typeId}, version {version}
        </p>
      </div>
      <Badge data-draft-status={status}>
        {status === 'open' ? 'Draft' : status === 'in-review' ? 'In review' : 'Released'}
      </Badge>
      <p role="status" data-kept={kept !== null}>
        {trouble ?? `${words}. ${flies}`}
      </p>
      <div>
        <SlimButton onPress={() => exportIt()}>Export</SlimButton>
        <SlimButton isDisabled={status !== 'open'} onPress={() => void undo()}>
          Undo
        </SlimButton>
      </div>
    </Head>
  );
});

function ConflictLine({ desk: { conflict, settle } }: { desk: DraftDesk }) {
  if (!conflict) return null;
  return (
    <Told role="alert">
      {conflict.theirs.by} has changed {conflict.file} while you did.
      <SlimButton onPress={() => settle(true)}>Keep mine</SlimButton>
      <SlimButton onPress={() => settle(false)}>Take theirs</SlimButton>
    </Told>
  );
}
