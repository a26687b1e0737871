import type { TypeFile } from '@rouse/core/aircraft';
import type { TypeLibrary } from '@rouse/core/contract';
import { useEffect, useMemo, useRef, useState } from 'react';
import { getJson } from '../../../platform/api.ts';
import { type DraftNow, DraftSync } from './draft-sync.ts';
import type { CompiledDraft, ToCompile } from './draft-worker.ts';
import { afterChange } from './type-change.ts';

/** What the worker found, with the type as it was when it was whole last. */
export interface DraftType extends Omit<CompiledDraft, 'type'> {
  type: TypeFile | null;
}

/** A draft as one person writes on it, and the type that it is so far. */
export interface DraftDesk extends DraftNow, DraftActs {
  compiled: DraftType | null;
  /** what is compiled is what stands in the draft now, and not what stood there a key ago */
  isFresh: boolean;
}

/** What is done to a draft: the same functions as long as the page is open. */
interface DraftActs {
  touched: (file: string) => boolean;
  change: (file: string, text: string) => void;
  undo: () => Promise<void>;
  /** keeps mine, or takes theirs */
  settle: (mine: boolean) => void;
  act: (what: 'review' | 'release' | 'reopen') => Promise<boolean>;
}

export function useDraft(id: string): DraftDesk {
  const [now, setNow] = useState<DraftNow | null>(null);
  const sync = useMemo(() => {
    const made: DraftSync = new DraftSync(id, () => setNow(made.now));
    return made;
  }, [id]);
  useEffect(() => {
    sync.start();
    return () => sync.stop();
  }, [sync]);
  const acts = useMemo(
    (): DraftActs => ({
      touched: (file) => sync.touched(file),
      change: (file, text) => sync.change(file, text),
      undo: () => sync.undo(),
      settle: (mine) => sync.settle(mine),
      act: (what) => sync.act(what),
    }),
    [sync],
  );
  const shown = now ?? sync.now;
  return { ...shown, ...useCompiled(shown.folder, shown.row !== null), ...acts };
}

/** The draft as a type, compiled in a worker; while it is at work, what was compiled last. */
function useCompiled(folder: DraftNow['folder'], ready: boolean): Pick<DraftDesk, 'compiled' | 'isFresh'> {
  const [compiled, setCompiled] = useState<DraftType | null>(null);
  const [compiledFolder, setCompiledFolder] = useState<DraftNow['folder'] | null>(null);
  const [library, setLibrary] = useState<TypeLibrary | null>(null);
  const worker = useRef<Worker | null>(null);
  const asked = useRef({ n: 0, folder });
  /** as the worker knows that this page has it */
  const told = useRef<TypeFile | null>(null);
  useEffect(() => {
    void getJson<TypeLibrary>('/types/library').then(setLibrary);
    const started = new Worker(new URL('./draft-worker.ts', import.meta.url), { type: 'module' });
    worker.current = started;
    started.addEventListener('message', ({ data }: MessageEvent<CompiledDraft>) => {
      if (data.type) told.current = afterChange(told.current, data.type);
      if (data.n !== asked.current.n) return;
      setCompiled({ ...data, type: told.current });
      setCompiledFolder(asked.current.folder);
    });
    return () => started.terminate();
  }, []);
  useEffect(() => {
    if (!ready || !library) return;
    const { n, folder: before } = asked.current;
    // a key changes one file: the others are there already
    const files = n === 0 ? folder : changedFiles(before, folder);
    asked.current = { n: n + 1, folder };
    if (n === 0) worker.current?.postMessage({ kind: 'library', library } satisfies ToCompile);
    worker.current?.postMessage({ kind: 'changed', n: n + 1, files } satisfies ToCompile);
  }, [folder, library, ready]);
  return { compiled, isFresh: compiledFolder === folder };
}

/** Files that are new or another text, and null for those that are gone. */
function changedFiles(before: DraftNow['folder'], now: DraftNow['folder']): Record<string, string | null> {
  const gone = Object.keys(before).filter((file) => !(file in now));
  const changed = Object.entries(now).filter(([file, text]) => before[file] !== text);
  return Object.fromEntries([...changed, ...gone.map((file) => [file, null] as const)]);
}
