import type { ChildProcess } from 'node:child_process';

/** Resolves when a program of ours says over its channel that it is ready. @throws Error when it ends before that */
export function untilReady(child: ChildProcess): Promise<void> {
  return new Promise((resolve, reject) => {
    child.on('message', (message: { ready?: boolean }) => {
      if (message.ready) resolve();
    });
    child.once('exit', (code, signal) =>
      reject(new Error(`the program ended with ${signal ?? code} before it was ready`)),
    );
  });
}
