// Works out what takes long beside the server's own thread: an alarm does not wait for it.
import { parentPort } from 'node:worker_threads';
import { type Asked, type Reckoned, reckon } from './reckon/tasks.ts';

parentPort!.on('message', ({ id, asked }: { id: number; asked: Asked }) => {
  reckon(asked).then(
    (done: Reckoned) => parentPort!.postMessage({ id, done }),
    (error: unknown) =>
      parentPort!.postMessage({ id, failed: error instanceof Error ? (error.stack ?? error.message) : String(error) }),
  );
});
