import { type BroughtAlong, MOST_RECORDING_BYTES } from '@rouse/core/contract';
import { BadRow } from '@rouse/core/replay';
import { useEffect, useRef, useState } from 'react';
import { serverData } from '../../app/server-data.ts';
import { useAppDispatch } from '../../app/store.ts';
import { ApiRefusal, postFile } from '../../platform/api.ts';
import { openFile } from './file-reader.ts';

/** What became of one file. */
export interface FileResult {
  name: string;
  kept: BroughtAlong | null;
  /** why it was refused */
  reason: string | null;
}

export interface PastState {
  total: number;
  results: readonly FileResult[];
  going: boolean;
  /** why it stands still before its end */
  held: string | null;
}

/** what the next file would be told as well */
const HOLDS = new Set(['run-is-open', 'signed-out', 'no-right']);
const IDLE: PastState = { total: 0, results: [], going: false, held: null };

/** The files of a tail's past, sent one after the other; stopped at any time, and gone on with where it stood. */
export function usePast(aircraft: string): { past: PastState; begin: (files: readonly File[]) => void; stop: () => void; goOn: () => void } {
  const dispatch = useAppDispatch();
  const [past, setPast] = useState(IDLE);
  const files = useRef<readonly File[]>([]);
  const wanted = useRef(false);
  useEffect(() => () => void (wanted.current = false), []);

  const work = async (from: readonly FileResult[]): Promise<void> => {
    wanted.current = true;
    const total = files.current.length;
    let results = from;
    let held: string | null = null;
    setPast({ total, results, going: true, held });
    for (const file of files.current.slice(from.length)) {
      if (!wanted.current) break;
      try {
        results = [...results, await bring(aircraft, file)];
        setPast({ total, results, going: true, held });
      } catch (error) {
        held = error instanceof ApiRefusal ? `${error.message} ${error.remedy}` : String(error);
        break;
      }
    }
    wanted.current = false;
    setPast({ total, results, going: false, held });
    dispatch(serverData.util.invalidateTags(['log', 'today']));
  };
  return {
    past,
    begin(chosen) {
      files.current = chosen;
      void work([]);
    },
    stop: () => void (wanted.current = false),
    goOn: () => void work(past.results),
  };
} // oxfmt-ignore

/** @throws ApiRefusal for what does not lie in the file */
async function bring(aircraft: string, file: File): Promise<FileResult> {
  const { name } = file;
  const refused = (reason: string): FileResult => ({ name, kept: null, reason });
  try {
    const { bytes } = await openFile(file);
    if (bytes.size > MOST_RECORDING_BYTES) return refused('It is larger than 20 MB. Cut it into one file a flight');
    const place = `/aircraft/${aircraft}/recordings?name=${encodeURIComponent(name)}`;
    return { name, kept: await postFile<BroughtAlong>(place, bytes, 'application/octet-stream'), reason: null };
  } catch (error) {
    if (error instanceof BadRow) return refused(error.message);
    if (!(error instanceof ApiRefusal) || (error.isOutage && error.code !== 'internal') || HOLDS.has(error.code))
      throw error;
    return refused(error.message.replace(/^file: /, ''));
  }
}
