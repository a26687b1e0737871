import { Worker } from 'node:worker_threads';
import type { TypeFile } from '@rouse/core/aircraft';
import type { Problem, TypeFolder } from '@rouse/core/authoring';

/** What became of a folder that somebody wrote. */
export interface CompiledApart {
  type: TypeFile | null;
  problems: Problem[];
}

/** Compiles a folder in a thread of its own. @param worker the built compile-worker.js */
export function compileApart(
  worker: string,
  folder: TypeFolder,
  library: Readonly<Record<string, TypeFolder>>,
): Promise<CompiledApart> {
  return new Promise((resolve, reject) => {
    const thread = new Worker(worker, { workerData: { folder, library } });
    thread.once('message', (result: CompiledApart) => {
      resolve(result);
      void thread.terminate();
    });
    thread.once('error', reject);
  });
}
